import type { Me, NoteInfo } from '@corvun/contract';
import { dayOf, plainSubject, sayDay, saySize, sayTime } from '@corvun/core';
import { FileText } from 'lucide-react';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { changeNote, removeNote } from '../../data/thingActions';
import { KEYS, keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';
import { Markdown } from '../../parts/Markdown';
import { useLongDraft } from '../../sheets/drafts';
import { useOpenEvent } from '../../sheets/open';

type Meeting = NonNullable<NoteInfo['meeting']>;

const button = 'border border-ink px-3 py-1 hover:bg-paper';
interface Draft {
  title: string;
  text: string;
  /** The version it was begun on. */
  version: number;
}

export const draftKey = (id: string) => `note-${id}`;

function draftIn(text: string | null): Draft | null {
  try {
    return JSON.parse(text ?? 'null') as Draft | null;
  } catch {
    return null;
  }
}

/** One page: read, or written in; and what it was written from. */
export function NotePage({ me, today, note }: { me: Me; today: string; note: NoteInfo }): ReactNode {
  const navigate = useNavigate();
  const [written, write] = useLongDraft(draftKey(note.id));
  const draft = useMemo(() => draftIn(written), [written]);
  const setDraft = (next: Draft | null) => write(next && JSON.stringify(next));
  const area = useRef<HTMLTextAreaElement>(null);
  const isOpen = draft !== null;
  useEffect(() => {
    if (isOpen) area.current?.focus();
  }, [isOpen]);
  const begin = () => setDraft({ title: note.title, text: note.text, version: note.version });
  useKeys({ [KEYS.notes.name]: begin });
  const { state } = useLocation() as { state: { write?: boolean } | null };
  const isNew = state?.write === true;
  useEffect(() => {
    if (!isNew) return;
    if (!isOpen) begin();
    // A reload does not begin it anew.
    void navigate('.', { replace: true });
    // Only as it is opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const keep = async () => {
    if (!draft?.title.trim()) return;
    const done = await changeNote(note.id, { title: draft.title.trim(), text: draft.text, version: draft.version });
    if (done) setDraft(null);
  };
  if (draft)
    return (
      <form
        aria-label="Write in the note"
        className="flex h-full max-w-[760px] flex-col gap-3 px-8 py-5 max-md:px-4"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void keep();
        }}
      >
        <label className="text-xs text-soft">
          Title
          <input
            className="block w-full border-b border-soft bg-transparent py-1 font-head text-lg font-semibold text-ink"
            value={draft.title}
            maxLength={200}
            aria-invalid={!draft.title.trim()}
            onChange={(event) => setDraft({ ...draft, title: event.target.value })}
          />
          {!draft.title.trim() && <span className="text-brick">The note needs a title.</span>}
        </label>
        <label className="flex min-h-[260px] flex-1 flex-col text-xs text-soft">
          Text, in Markdown
          <textarea
            ref={area}
            className="mt-1 w-full flex-1 resize-none border border-soft bg-paper p-3 text-base text-ink"
            value={draft.text}
            maxLength={500_000}
            onChange={(event) => setDraft({ ...draft, text: event.target.value })}
          />
        </label>
        {draft.version !== note.version && (
          <p className="text-xs text-amber">
            The page was changed meanwhile in another place. Copy what you wrote, leave it, and write it into the present page.
          </p>
        )}
        <div className="flex gap-2 pb-4">
          <button type="submit" className="bg-teal px-3 py-1 font-semibold text-on-teal">
            Keep it
          </button>
          <button type="button" className={button} onClick={() => setDraft(null)}>
            Throw it away
          </button>
          <span className="self-center text-xs text-soft">Ctrl and Enter keep it; Esc only leaves the field.</span>
        </div>
      </form>
    );
  return (
    <article aria-label={note.title} className="max-w-[760px] px-8 py-5 max-md:px-4">
      <header className="flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <h2 className="font-head text-lg font-semibold tracking-tight break-words">{note.title}</h2>
          <p className="text-xs text-soft">
            Changed {sayDay(dayOf(Date.parse(note.changed), me.zone), today)}, {sayTime(Date.parse(note.changed), me.zone)}
          </p>
          {note.meeting && <OfMeeting meeting={note.meeting} today={today} zone={me.zone} />}
        </div>
        <button type="button" className={button} onClick={begin}>
          Write <Key>{keyName(KEYS.notes.name)}</Key>
        </button>
        <button
          type="button"
          className={button}
          onClick={() => void removeNote(note.id).then((done) => done && navigate('/notes'))}
        >
          Take away
        </button>
      </header>
      {note.text.trim() ? <Markdown text={note.text} /> : <p className="mt-4 text-soft">Nothing is written here yet.</p>}
      {note.from.length > 0 && <Origins note={note} today={today} />}
    </article>
  );
}

/** The way back to the meeting a page belongs to. */
function OfMeeting({ meeting, today, zone }: { meeting: Meeting; today: string; zone: string }): ReactNode {
  const open = useOpenEvent();
  const { id, occurrence, title, start } = meeting;
  const at = start.length > 10 ? `, ${sayTime(Date.parse(start), zone)}` : '';
  return (
    <p className="text-xs text-soft">
      The page of{' '}
      <button type="button" className="min-h-6 underline underline-offset-2 hover:text-teal" onClick={() => open(id, occurrence)}>
        {title}
      </button>
      , {sayDay(start.slice(0, 10), today)}
      {at}
    </p>
  );
}

function Origins({ note, today }: { note: NoteInfo; today: string }): ReactNode {
  return (
    <section aria-label="Written from" className="mt-8 border-t border-rule pt-3">
      <h3 className="text-xs text-soft">Written from</h3>
      <ul>
        {note.from.map((one) => (
          <li key={one.id} className="py-1">
            <Link to={`/sort/${one.id}`} className="underline underline-offset-2">
              {plainSubject(one.subject) || 'No subject'}
            </Link>
            <span className="text-xs text-soft">
              {' '}
              · {one.sender.name || one.sender.address || 'you'}, {sayDay(one.received.slice(0, 10), today)}
            </span>
            {one.attachmentList.map((file) => (
              <a
                key={file.id}
                href={file.url}
                target="_blank"
                rel="noreferrer"
                className="ml-2 inline-flex items-center gap-1 border border-rule px-2 py-[2px] text-xs hover:border-ink"
              >
                <FileText size={13} aria-hidden="true" /> {file.name} <span className="text-soft">{saySize(file.size)}</span>
              </a>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
