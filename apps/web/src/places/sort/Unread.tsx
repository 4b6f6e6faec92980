import type { IncomingFull } from '@corvun/contract';
import type { ReactNode } from 'react';

const TITLES: Record<string, string> = {
  'could not be read': 'This message could not be read',
  'its invitation could not be kept': 'The invitation in this message is not in your calendar',
  'another text under a known id': 'Two different messages with one Message-ID',
};

/** Whether there is nothing to show but that it could not be read. */
export const isUnread = ({ note, text }: IncomingFull): boolean => note === 'could not be read' && !text;

/** Whether what could not be read, or not be kept, is so much that it is said before everything else. */
export const saysFirst = ({ note, kind, problems }: IncomingFull): boolean =>
  problems.length > 0 && (note in TITLES || kind === 'invitation');

/** What could not be read or kept of a message, and where the whole of it is. */
export function Unread({ incoming }: { incoming: IncomingFull }): ReactNode {
  return (
    <section aria-label="Not read" className="mr-5 mb-4 ml-8 border border-amber bg-paper p-3 @max-[560px]/sheet:mx-4">
      <p className="font-semibold">{TITLES[incoming.note] ?? 'Not all of this could be kept as it was sent'}</p>
      {incoming.problems.map((problem) => (
        <p key={problem} className="mt-1 max-w-[68ch]">
          {problem.replace(`${TITLES[incoming.note] ?? ''}. `, '')}
        </p>
      ))}
      <p className="mt-2">
        <a className="underline underline-offset-2 hover:text-teal" href={`/api/incoming/${incoming.id}/original`}>
          Save the original, byte for byte
        </a>
      </p>
    </section>
  );
}
