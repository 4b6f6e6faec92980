import type { Work } from '../kernel/work';
import { Tag } from './tag.entity';

/** Makes the tags that are not known yet, so that every tag in use can be listed. */
export async function keepTags(work: Work, names: readonly string[]): Promise<void> {
  for (const name of new Set(names)) {
    const known = await work.manager.findOneBy(Tag, { ownerId: work.ownerId, name });
    if (!known)
      await work.insert('tag', { name, hue: [...name].reduce((sum, letter) => sum + (letter.codePointAt(0) ?? 0), 0) % 10 });
  }
}
