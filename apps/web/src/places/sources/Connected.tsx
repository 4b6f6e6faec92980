import type { Me, SourceInfo } from '@corvun/contract';
import { count } from '@corvun/core';
import { AlertDialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { changeSource, removeSource, runSource, useSources } from '../../data/sources';
import { Failed, Waiting } from '../../parts/states';
import { useNow } from '../../parts/useNow';
import { ChangeSource } from './ChangeSource';
import { ICONS, KIND_NAMES, Progress, button, primary, quiet, saysPast, saysSettings, saysWhen } from './common';

/** What is connected, how it is, and what can be done about it. */
export function Connected({ me }: { me: Me }): ReactNode {
  const sources = useSources();
  if (sources.isPending) return <Waiting what="Opening the sources" />;
  if (sources.error && !sources.data) return <Failed problem={sources.error} retry={() => void sources.refetch()} />;
  const all = sources.data ?? [];
  return (
    <>
      {all.length ? (
        <ul className="border-t border-rule">
          {all.map((source) => (
            <Row key={source.id} me={me} source={source} />
          ))}
        </ul>
      ) : (
        <div className="border-l-2 border-teal pl-4">
          <p className="font-head text-md font-semibold">Nothing is connected yet</p>
          <p className="mt-1 max-w-[60ch] text-soft">
            Mail to <span className="text-ink select-text">{me.captureAddress}</span> already arrives. Connect a mailbox, the
            team’s chat or tracker, your notes folder or a calendar; before anything comes in you see what would.
          </p>
        </div>
      )}
      <Link to="/sources/add" className={`${primary} mt-5 inline-block`}>
        Connect a source
      </Link>
    </>
  );
}

function stateOf(source: SourceInfo, now: number, zone: string): { text: string; tone: string } {
  if (source.state === 'paused')
    return { text: 'Paused. Nothing comes in and nothing goes back until you go on.', tone: 'text-soft' };
  if (source.problem)
    return { text: `${source.problem} Tried again ${saysWhen(source.nextTry, now, zone)}.`, tone: 'text-brick' };
  return {
    text: source.lastSuccess ? `Last look ${saysPast(source.lastSuccess, now, zone)}` : 'First look',
    tone: 'text-soft',
  };
}

function Row({ me, source }: { me: Me; source: SourceInfo }): ReactNode {
  const now = useNow();
  const [changing, setChanging] = useState(false);
  const Icon = ICONS[source.kind];
  const { text, tone } = stateOf(source, now, me.zone);
  const { held, outbox } = source;
  const numbers = [
    held.waiting ? `${held.waiting} in the inbox` : '',
    held.decided ? `${held.decided} decided` : '',
    held.tasks ? count(held.tasks, 'task') : '',
    held.events ? count(held.events, 'event') : '',
  ].filter(Boolean);
  const paused = source.state === 'paused';
  return (
    <li className="border-b border-rule py-4" aria-label={source.name}>
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <Icon
          size={20}
          className={`mt-[2px] shrink-0 ${source.problem && !paused ? 'text-brick' : 'text-teal'}`}
          aria-hidden="true"
        />
        <div className="min-w-0 flex-1 basis-72">
          <h2 className="font-head text-md font-semibold">{source.name}</h2>
          <p className="truncate text-xs text-soft" title={source.address}>
            {KIND_NAMES[source.kind]} · {source.address}
          </p>
          <p className="mt-1">{saysSettings(source)}</p>
          <p className={`mt-1 ${tone}`}>{text}</p>
          {source.left && <p className="mt-1 text-soft">{source.left}</p>}
          {source.progress && !paused && (
            <Progress {...source.progress} unit={source.kind === 'notes' ? 'notes' : 'read'} label={`Reading ${source.name}`} />
          )}
          <p className="mt-1 text-xs text-soft">{numbers.join(' · ') || 'Nothing came of it yet'}</p>
          {outbox.waiting > 0 && (
            <p className="mt-1 text-xs">
              <Link className={quiet} to="/sources/outbox">
                {count(outbox.waiting, 'change')} to send back
                {outbox.failed ? `, ${outbox.failed} of them failed so far` : ''}
              </Link>
            </p>
          )}
        </div>
        <div className="flex flex-wrap gap-2 text-xs">
          {paused ? (
            <button
              type="button"
              className={button}
              onClick={() => void changeSource(source.id, { state: 'active' }, `${source.name} goes on`)}
            >
              Go on
            </button>
          ) : (
            <>
              <button
                type="button"
                className={button}
                disabled={source.progress !== null}
                onClick={() => void runSource(source.id)}
              >
                {source.problem ? 'Try again now' : 'Look now'}
              </button>
              <button
                type="button"
                className={button}
                onClick={() => void changeSource(source.id, { state: 'paused' }, `${source.name} is paused`)}
              >
                {source.progress ? 'Stop' : 'Pause'}
              </button>
            </>
          )}
          <button type="button" className={button} aria-expanded={changing} onClick={() => setChanging(!changing)}>
            Change
          </button>
          <Remove source={source} />
        </div>
      </div>
      {changing && <ChangeSource source={source} close={() => setChanging(false)} />}
    </li>
  );
}

function Remove({ source }: { source: SourceInfo }): ReactNode {
  const { held, outbox } = source;
  const lines = [
    held.waiting ? `${held.waiting} undecided from it leave the inbox.` : '',
    held.decided ? `${held.decided} decided stay, with their originals.` : '',
    held.tasks
      ? `${count(held.tasks, 'task')} ${held.tasks === 1 ? 'stays' : 'stay'}, and no longer ${held.tasks === 1 ? 'follows' : 'follow'} it.`
      : '',
    source.kind === 'feed' ? `Its calendar goes, with ${count(held.events, 'event')}.` : '',
    source.kind === 'account' ? `Its calendars stay as your own, with ${count(held.events, 'event')}.` : '',
    outbox.waiting ? `${count(outbox.waiting, 'change')} not sent yet will not be sent.` : '',
    'Nothing is changed there.',
  ].filter(Boolean);
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className={button}>Remove</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <AlertDialog.Content className="fixed top-1/2 left-1/2 z-50 w-[min(440px,92vw)] -translate-x-1/2 -translate-y-1/2 border border-ink bg-card p-5 shadow-lg">
          <AlertDialog.Title className="font-head text-md font-semibold">Remove {source.name}?</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <ul className="mt-2 list-disc pl-5">
              {lines.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          </AlertDialog.Description>
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel className={button}>Keep it</AlertDialog.Cancel>
            <AlertDialog.Action
              className="bg-brick px-3 py-1 font-semibold text-paper"
              onClick={() => void removeSource(source.id)}
            >
              Remove
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
