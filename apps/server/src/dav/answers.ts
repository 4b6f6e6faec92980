import type { XmlElement } from '@corvun/formats';
import { DavError } from './dav-error';
import { namesOf, pick, type Values } from './properties';
import { DAV, child, d, element, nameOf, responseOf, type Name } from './xml';

/** The properties a question names; `null`: all that cost nothing; `names`: only how they are called (RFC 4918, 9.1). */
export type Asked = readonly Name[] | 'names' | null;

export function askedIn(body: XmlElement | null): Asked {
  const props = child(body, DAV, 'prop');
  if (props) return props.children.map(nameOf);
  return child(body, DAV, 'propname') ? 'names' : null;
}

export const wantsText = (asked: Asked): boolean =>
  Array.isArray(asked) && asked.some(({ local }: Name) => local === 'calendar-data' || local === 'getcontentlength');

export function answer(path: string, values: Values, asked: Asked): string {
  if (asked === 'names')
    return responseOf(
      path,
      namesOf(values).map((name) => element(name)),
      [],
    );
  const { found, missing } = pick(values, asked);
  return responseOf(path, found, missing);
}

/** Characters of one answer; more is asked for in parts. */
const MOST_ANSWERED = 48 * 1024 * 1024;

/** The parts of one answer, as far as one can be given. */
export class Answers {
  readonly all: string[] = [];
  private size = 0;

  /** @throws DavError 507 */
  add(answer: string): void {
    this.size += answer.length;
    if (this.size > MOST_ANSWERED) throw new DavError(507, d('number-of-matches-within-limits'), 'Ask for less at once.');
    this.all.push(answer);
  }
}
