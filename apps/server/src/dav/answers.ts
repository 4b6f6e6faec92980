import type { Shape, XmlElement } from '@corvun/formats';
import { DavError } from './dav-error';
import { namesOf, pick, type Values } from './properties';
import { shapeIn } from './shape';
import { CALDAV, DAV, child, d, element, nameOf, responseOf, type Name } from './xml';

/** The properties a question names; `null`: all that cost nothing; `names`: only how they are called (RFC 4918, 9.1). */
export type Asked = AskedProperties | 'names' | null;

/** Properties by name, and how texts among them are wanted. */
export interface AskedProperties {
  names: readonly Name[];
  shape: Shape | null;
}

export function askedIn(body: XmlElement | null): Asked {
  const props = child(body, DAV, 'prop');
  if (props) return { names: props.children.map(nameOf), shape: shapeIn(child(props, CALDAV, 'calendar-data')) };
  return child(body, DAV, 'propname') ? 'names' : null;
}

export const wantsText = (asked: Asked): boolean =>
  typeof asked === 'object' &&
  asked !== null &&
  asked.names.some(({ local }) => local === 'calendar-data' || local === 'getcontentlength');

export function answer(path: string, values: Values, asked: Asked): string {
  if (asked === 'names')
    return responseOf(
      path,
      namesOf(values).map((name) => element(name)),
      [],
    );
  const { found, missing } = pick(values, asked && asked.names);
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
