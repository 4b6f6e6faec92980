import type { Me } from '@corvun/contract';
import { sayTime } from '@corvun/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { sayPresence, usePresence } from '../../data/doing';
import { saysWrong } from '../../data/api';
import { useDraft } from '../../sheets/drafts';
import { button, primary } from '../sources/common';

const link = 'min-h-6 underline underline-offset-2 hover:text-teal';

/** What others see of how one is, and where; own words take its place for a while. */
export function PresenceLine({ me }: { me: Me }): ReactNode {
  const presence = usePresence().data;
  const [saying, setSaying] = useState(false);
  if (!presence) return null;
  const { text, own, dnd, until, shownIn } = presence;
  return (
    <div className="mt-3 text-xs text-soft">
      <p className="flex flex-wrap items-baseline gap-x-3">
        {shownIn.length ? (
          <>
            <span>
              Others see <b className="font-semibold text-ink">{text}</b> in {shownIn.join(' and ')}
              {own !== null && until && ` until ${sayTime(Date.parse(until), me.zone)}`}
              {dnd && '; what they write there waits'}
            </span>
            {!saying && (
              <button type="button" className={link} onClick={() => setSaying(true)}>
                Say it in your own words
              </button>
            )}
            {own !== null && (
              <button type="button" className={link} onClick={() => void sayPresence({ text: null })}>
                What the day says
              </button>
            )}
          </>
        ) : (
          <span>
            Others do not see how you are.{' '}
            <Link to="/sources" className={link}>
              Let a chat show it
            </Link>
          </span>
        )}
      </p>
      {saying && <OwnWords close={() => setSaying(false)} />}
    </div>
  );
}

function OwnWords({ close }: { close: () => void }): ReactNode {
  const [text, write] = useDraft('presence');
  const [until, setUntil] = useState('');
  const [wrong, setWrong] = useState('');
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const send = async () => {
    const words = (text ?? '').trim();
    const clock = until
      .trim()
      .replace(/^(\d):/, '0$1:')
      .replace(/^(\d{1,2})$/, (hour) => `${hour.padStart(2, '0')}:00`);
    if (!words) return setWrong('Write what others are to see.');
    try {
      await sayPresence({ text: words, until: clock || null }, true);
      write(null);
      close();
    } catch (problem) {
      setWrong(saysWrong(problem));
    }
    return undefined;
  };
  return (
    <form
      noValidate
      aria-label="What others see"
      className="mt-2 flex flex-wrap items-end gap-3 border border-teal bg-card p-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        close();
      }}
    >
      <label className="min-w-0 flex-1">
        In your own words
        <input
          ref={field}
          maxLength={100}
          autoComplete="off"
          placeholder="On the boat"
          className="block min-h-6 w-full border-b border-soft bg-transparent text-sm text-ink"
          value={text ?? ''}
          aria-invalid={wrong !== ''}
          aria-describedby="presence-wrong"
          onChange={({ target }) => {
            setWrong('');
            write(target.value);
          }}
        />
      </label>
      <label>
        Until
        <input
          autoComplete="off"
          placeholder="the day ends"
          className="block min-h-6 w-28 border-b border-soft bg-transparent text-sm text-ink"
          value={until}
          aria-describedby="presence-wrong"
          onChange={({ target }) => {
            setWrong('');
            setUntil(target.value);
          }}
        />
      </label>
      <button type="submit" className={primary}>
        Show
      </button>
      <button type="button" className={button} onClick={close}>
        Leave it
      </button>
      <p id="presence-wrong" role="alert" className="w-full text-brick empty:hidden">
        {wrong}
      </p>
    </form>
  );
}
