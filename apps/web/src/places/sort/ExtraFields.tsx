import type { IncomingFull, Me } from '@corvun/contract';
import { sayRule, dayOf, type Priority } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { useLists, useTags } from '../../data/queries';
import { useReading } from '../../parts/reading';
import { Tally } from '../../parts/signs';
import { serverNow } from '../../parts/useNow';
import type { DecisionDraft, Proposal } from './proposal';

const field = 'block w-full border border-soft bg-card px-2 py-1 text-sm text-ink';
const PRIORITIES: Priority[] = ['low', 'normal', 'high'];

interface FieldsProps {
  me: Me;
  draft: DecisionDraft;
  proposal: Proposal;
  incoming: IncomingFull | undefined;
  put: (change: DecisionDraft) => void;
  close: () => void;
}

/** Everything a task can carry. */
export function ExtraFields({ me, draft, proposal, incoming, put, close }: FieldsProps): ReactNode {
  const lists = useLists();
  const files = incoming?.attachmentList ?? [];
  const keep = draft.keep ?? files.map((file) => file.id);
  return (
    <div
      role="group"
      aria-label="What goes with it"
      className="grid gap-2 border-l-2 border-teal pl-3"
      data-keeps-enter
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        close();
      }}
    >
      <div>
        <div className="mb-1 flex items-baseline justify-between">
          <label htmlFor="extra-notes" className="text-xs text-soft">
            Notes
          </label>
          {incoming?.text.trim() && (
            <button
              type="button"
              className="h-6 text-xs underline underline-offset-2"
              onClick={() => put({ notes: [draft.notes?.trim(), incoming.text.trim()].filter(Boolean).join('\n\n') })}
            >
              Take the message text in
            </button>
          )}
        </div>
        <textarea
          id="extra-notes"
          rows={2}
          autoFocus
          className={`${field} field-sizing-content max-h-40`}
          value={draft.notes ?? ''}
          maxLength={100_000}
          onChange={(event) => put({ notes: event.target.value })}
        />
      </div>
      <label className="text-xs text-soft">
        Steps, one a line
        <textarea
          rows={2}
          className={`${field} field-sizing-content max-h-32`}
          value={(draft.steps ?? []).join('\n')}
          onChange={(event) => put({ steps: event.target.value ? event.target.value.split('\n').slice(0, 100) : [] })}
        />
      </label>
      <div className="grid grid-cols-2 gap-2">
        <label className="text-xs text-soft">
          List
          <select className={field} value={proposal.list ?? ''} onChange={(event) => put({ list: event.target.value })}>
            <option value="">none</option>
            {lists.data?.map((list) => (
              <option key={list.id}>{list.name}</option>
            ))}
          </select>
        </label>
        <TagsField tags={proposal.tags} put={(tags) => put({ tags })} />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <fieldset>
          <legend className="mb-[3px] text-xs text-soft">Priority</legend>
          <div className="flex border border-soft">
            {PRIORITIES.map((priority) => (
              <label
                key={priority}
                title={`${priority} priority`}
                className="grid h-[29px] flex-1 cursor-pointer place-items-center border-r border-rule last:border-r-0 has-checked:bg-teal has-checked:text-on-teal has-focus-visible:outline-2"
              >
                <input
                  type="radio"
                  name="extra-priority"
                  className="sr-only"
                  checked={proposal.priority === priority}
                  onChange={() => put({ priority })}
                />
                <Tally priority={priority} />
              </label>
            ))}
          </div>
        </fieldset>
        <RepeatField me={me} repeat={draft.repeat ?? null} put={(repeat) => put({ repeat })} />
      </div>
      {proposal.deadline && (
        <label className="flex items-center gap-2 text-xs">
          <input
            type="checkbox"
            className="accent-teal"
            checked={proposal.fixed}
            onChange={(event) => put({ fixed: event.target.checked })}
          />
          The deadline is fixed: it will not move
        </label>
      )}
      {files.length > 0 && (
        <fieldset>
          <legend className="text-xs text-soft">Carried along</legend>
          {files.map((file) => (
            <label key={file.id} className="flex items-center gap-2 text-xs">
              <input
                type="checkbox"
                className="accent-teal"
                checked={keep.includes(file.id)}
                onChange={(event) =>
                  put({ keep: event.target.checked ? [...keep, file.id] : keep.filter((id) => id !== file.id) })
                }
              />
              <span className="truncate">{file.name}</span>
            </label>
          ))}
        </fieldset>
      )}
    </div>
  );
}

const wordsOf = (text: string) => [
  ...new Set(
    text
      .split(/[\s,#]+/)
      .map((word) => word.trim().toLowerCase())
      .filter(Boolean),
  ),
];

function TagsField({ tags, put }: { tags: string[]; put: (tags: string[]) => void }): ReactNode {
  const known = useTags();
  const [text, setText] = useState<string | null>(null);
  return (
    <label className="text-xs text-soft">
      Tags
      <input
        className={field}
        list="known-tags"
        value={text ?? tags.join(' ')}
        autoComplete="off"
        onChange={(event) => {
          setText(event.target.value);
          put(wordsOf(event.target.value));
        }}
        onBlur={() => setText(null)}
      />
      <datalist id="known-tags">
        {known.data?.map((tag) => (
          <option key={tag.name} value={tag.name} />
        ))}
      </datalist>
    </label>
  );
}

type Repeat = NonNullable<DecisionDraft['repeat']>;

function RepeatField({ me, repeat, put }: { me: Me; repeat: Repeat | null; put: (repeat: Repeat | null) => void }): ReactNode {
  const [text, setText] = useState(repeat?.words ?? '');
  const { readRepeat } = useReading();
  const rule = (words: string) => {
    const context = { now: serverNow(), zone: me.zone };
    return readRepeat(words, context) ?? readRepeat(`every ${words}`, context);
  };
  const wrong = text.trim() !== '' && !rule(text);
  return (
    <div>
      <label htmlFor="extra-repeat" className="text-xs text-soft">
        Repeats
      </label>
      <input
        id="extra-repeat"
        className={field}
        value={text}
        placeholder="every month"
        autoComplete="off"
        aria-invalid={wrong}
        aria-describedby="repeat-wrong"
        onChange={(event) => {
          const words = event.target.value;
          setText(words);
          const found = words.trim() ? rule(words) : null;
          put(found ? { rule: found, words: sayRule(found, dayOf(serverNow(), me.zone)) } : null);
        }}
      />
      <p id="repeat-wrong" className="text-xs text-brick empty:hidden">
        {wrong ? 'Write it as “every month”' : ''}
      </p>
    </div>
  );
}
