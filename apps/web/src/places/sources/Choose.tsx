import type { BoardChoice, SourceKind, SourceLook, SourceSettings } from '@corvun/contract';
import type { ReactNode } from 'react';
import { useLists } from '../../data/queries';
import { Check } from './Check';
import { Collections } from './Collections';
import { field } from './common';

interface ChooseProps {
  kind: SourceKind;
  look: SourceLook;
  settings: SourceSettings;
  set: (settings: SourceSettings) => void;
}

/** What to bring in, and how things map; each kind of source asks its own few questions. */
export function Choose({ kind, look, settings, set }: ChooseProps): ReactNode {
  const change = (patch: SourceSettings) => set({ ...settings, ...patch });
  switch (kind) {
    case 'mailbox':
      return (
        <>
          <Ticks legend="Folders" look={look} chosen={settings.folders ?? []} set={(folders) => change({ folders })} />
          <Check label="Unread only" checked={settings.unreadOnly ?? false} set={(unreadOnly) => change({ unreadOnly })} />
          <Days label="Of the last days" value={settings.days ?? 30} set={(days) => change({ days: days ?? 30 })} />
          <label className="block">
            When decided
            <select
              className={field}
              value={settings.moveTo ?? ''}
              onChange={(event) => change({ moveTo: event.target.value || null })}
            >
              <option value="">leave it where it is</option>
              {[...new Set([...look.choices.map((one) => one.id), 'Decided'])].map((one) => (
                <option key={one} value={one}>
                  move it to {one}
                </option>
              ))}
            </select>
          </label>
        </>
      );
    case 'chat':
      return (
        <>
          <Check label="Messages to you alone" checked={settings.direct ?? true} set={(direct) => change({ direct })} />
          <Words
            label="Your mark: a reaction that means “keep this for me”"
            value={settings.mark ?? ''}
            set={(mark) => change({ mark })}
          />
          <Words
            label="Words that bring a message in, with commas"
            value={(settings.words ?? []).join(', ')}
            set={(text) => change({ words: split(text) })}
          />
          <Ticks
            legend="Channels in which the words are looked for"
            look={look}
            chosen={settings.channels?.length ? settings.channels : look.choices.map((one) => one.id)}
            set={(channels) => change({ channels })}
          />
          <Words
            label="Reaction to set when decided (empty for none)"
            value={settings.decidedMark ?? ''}
            set={(decidedMark) => change({ decidedMark })}
          />
          <Check
            label="Show others there how I am; in quiet time its messages wait"
            checked={settings.presence ?? false}
            set={(presence) => change({ presence })}
          />
        </>
      );
    case 'tracker':
      return <Boards look={look} settings={settings} change={change} />;
    case 'notes':
      return (
        <>
          <Words
            label="Only lines with this tag (empty for all)"
            value={settings.tag ?? ''}
            set={(tag) => change({ tag: tag.replace(/^#/, '') || null })}
          />
          <Ticks
            legend="Folders"
            look={look}
            chosen={look.choices.map((one) => one.id).filter((one) => !settings.leaveOut?.includes(one))}
            set={(kept) => change({ leaveOut: look.choices.map((one) => one.id).filter((one) => !kept.includes(one)) })}
          />
          <Days
            label="Leave out notes not changed for so many days (empty for none)"
            value={settings.untouchedDays ?? null}
            set={(untouchedDays) => change({ untouchedDays })}
          />
          <ListChoice value={settings.list ?? ''} set={(list) => change({ list: list || null })} />
        </>
      );
    case 'account':
      return <Collections look={look} settings={settings} change={change} />;
    case 'feed':
      return <Check label="Its events count as busy" checked={settings.busy ?? false} set={(busy) => change({ busy })} />;
  }
}

const split = (text: string) =>
  text
    .split(',')
    .map((one) => one.trimStart())
    .filter((one, at, all) => one || at === all.length - 1);

/** The labels there are, and those that are asked for though no card has them now. */
const labelsOf = ({ labels = [] }: SourceLook, settings: SourceSettings): SourceLook['choices'] => [
  ...labels,
  ...(settings.labels ?? [])
    .filter((one) => !labels.some(({ id }) => id === one))
    .map((id) => ({ id, name: id, count: 0, chosen: true })),
];

function Boards({
  look,
  settings,
  change,
}: {
  look: SourceLook;
  settings: SourceSettings;
  change: (patch: SourceSettings) => void;
}): ReactNode {
  const boards = settings.boards ?? [];
  const put = (board: BoardChoice) => change({ boards: boards.map((one) => (one.id === board.id ? board : one)) });
  return (
    <>
      {look.choices.map((choice) => {
        const board = boards.find((one) => one.id === choice.id);
        const statuses = choice.statuses ?? [];
        const first = statuses[0]?.id ?? '';
        const select = (label: string, value: string, set: (status: string) => void) => (
          <label className="block flex-1">
            {label}
            <select className={field} value={value} onChange={(event) => set(event.target.value)}>
              {statuses.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          </label>
        );
        return (
          <fieldset key={choice.id} className="border-t border-rule pt-2">
            <Check
              label={`${choice.name}, ${choice.count ?? 0} cards`}
              checked={board !== undefined}
              set={(on) =>
                change({
                  boards: on
                    ? [
                        ...boards,
                        { id: choice.id, name: choice.name, ready: [first], done: statuses.at(-1)?.id ?? '', reopen: first },
                      ]
                    : boards.filter((one) => one.id !== choice.id),
                })
              }
            />
            {board && (
              <div className="mt-1 ml-6 flex flex-wrap gap-3">
                <fieldset className="flex-1 basis-full">
                  <legend className="text-soft">These mean ready</legend>
                  <div className="flex flex-wrap gap-x-4">
                    {statuses.map((one) => (
                      <Check
                        key={one.id}
                        label={`${one.name} (${one.count})`}
                        checked={board.ready.includes(one.id)}
                        set={(on) =>
                          put({ ...board, ready: on ? [...board.ready, one.id] : board.ready.filter((id) => id !== one.id) })
                        }
                      />
                    ))}
                  </div>
                </fieldset>
                {select('This means done', board.done, (done) => put({ ...board, done }))}
                {select('Reopened goes back to', board.reopen, (reopen) => put({ ...board, reopen }))}
              </div>
            )}
          </fieldset>
        );
      })}
      <Ticks
        legend="Only cards with one of these labels (none ticked: all)"
        look={{ ...look, choices: labelsOf(look, settings) }}
        chosen={settings.labels ?? []}
        set={(labels) => change({ labels })}
      />
      <Words
        label="Only cards that say one of these words, with commas (empty for all)"
        value={(settings.words ?? []).join(', ')}
        set={(text) => change({ words: split(text) })}
      />
      <label className="block border-t border-rule pt-2">
        Its due dates are
        <select
          className={field}
          value={settings.due ?? 'fixed'}
          onChange={(event) => change({ due: event.target.value as 'fixed' })}
        >
          <option value="fixed">fixed: others rely on them</option>
          <option value="flexible">flexible: wishes</option>
          <option value="none">not taken</option>
        </select>
      </label>
      <Check label="Write minutes spent back" checked={settings.writeTime ?? true} set={(writeTime) => change({ writeTime })} />
    </>
  );
}

function ListChoice({ value, set }: { value: string; set: (list: string) => void }): ReactNode {
  const lists = useLists();
  return (
    <label className="block">
      New tasks go to
      <select className={field} value={value} onChange={(event) => set(event.target.value)}>
        <option value="">no list</option>
        {lists.data?.map((one) => (
          <option key={one.id}>{one.name}</option>
        ))}
      </select>
    </label>
  );
}

function Ticks({
  legend,
  look,
  chosen,
  set,
}: {
  legend: string;
  look: SourceLook;
  chosen: string[];
  set: (ids: string[]) => void;
}): ReactNode {
  if (!look.choices.length) return null;
  return (
    <fieldset>
      <legend className="text-soft">{legend}</legend>
      <div className="flex flex-wrap gap-x-4">
        {look.choices.map((one) => (
          <Check
            key={one.id}
            label={`${one.name}${one.count === null ? '' : ` (${one.count})`}`}
            checked={chosen.includes(one.id)}
            set={(on) => set(on ? [...chosen, one.id] : chosen.filter((id) => id !== one.id))}
          />
        ))}
      </div>
    </fieldset>
  );
}

function Words({ label, value, set }: { label: string; value: string; set: (text: string) => void }): ReactNode {
  return (
    <label className="block">
      {label}
      <input className={field} value={value} autoComplete="off" onChange={(event) => set(event.target.value)} />
    </label>
  );
}

function Days({ label, value, set }: { label: string; value: number | null; set: (days: number | null) => void }): ReactNode {
  return (
    <label className="block">
      {label}
      <input
        className={field}
        type="number"
        min={1}
        value={value ?? ''}
        onChange={(event) => set(event.target.value ? Number(event.target.value) : null)}
      />
    </label>
  );
}
