import type { EntityManager } from 'typeorm';
import { newId } from '../base/ids';
import { Note } from '../notes/note.entity';
import type { Around } from './world';

/** Working days back from today, and what Maren wrote on a page then. */
const PAGES: [back: number, title: string, text: string][] = [
  [
    2,
    'Hut: keys and how to lock it',
    '- One key with Jonas, one with Pia, the third in the office\n- The lower bolt first, then the padlock; it sticks when it is wet\n- From September on: ask who takes Pia’s\n',
  ],
  [
    6,
    'Interim report: what goes in',
    '## Results\n\n- 48 m of boardwalk, section B open since May\n- Reed zone: **three** new pairs of bitterns\n\n## Figures\n\n| line | planned | spent |\n| --- | ---: | ---: |\n| boardwalk | 24 000 | 9 100 |\n| seeds | 3 200 | 2 950 |\n\nEmil has the rest.\n',
  ],
  [
    11,
    'Volunteer days: ideas',
    '1. Reed day in pairs, one who knows the reed and one who does not\n2. Tea at the hut at eleven, not at ten\n3. Let the school count the frogs\n',
  ],
];

/** The pages of Maren’s notes. */
export async function makePages(manager: EntityManager, ownerId: string, around: Around): Promise<void> {
  for (const [position, [back, title, text]] of PAGES.entries()) {
    const at = around.at(around.workday(-back), '16:20');
    const own = { id: newId(), ownerId, version: 1, created: at, changed: at };
    await manager.insert(Note, { ...own, title, text, parentId: null, position, incomingIds: [], eventUid: null });
  }
}
