import type { AlsoInput, IncomingFull } from '@corvun/contract';
import { addDays, sayDay, titleOf } from '@corvun/core';
import type { ReactNode } from 'react';
import { useLists } from '../../data/queries';
import { KEYS, keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { useDrafts } from './draft';

const MOST = 8;

/** The titles of the other asks, by their number in the message. */
export const otherAsks = ({ text, facts, subject }: IncomingFull): [number, string][] =>
  facts.asks.slice(1, MOST).map((_, at) => [at + 1, titleOf(text, facts, subject, at + 1)]);

/** Takes all other asks as tasks, or none. */
export function turnAllAsks(incoming: IncomingFull): void {
  const { drafts, edit } = useDrafts.getState();
  const chosen = drafts[incoming.id]?.also ?? {};
  const asks = otherAsks(incoming);
  const all = asks.every(([ask]) => chosen[ask]);
  edit(incoming.id, { also: all ? {} : Object.fromEntries(asks.map(([ask, title]) => [ask, chosen[ask] ?? { title }])) });
}

/** What else the message asks: each can become a task of its own, with a place of its own, joined to the same original. */
export function MoreAsks({ incoming, today }: { incoming: IncomingFull; today: string }): ReactNode {
  const lists = useLists();
  const also = useDrafts((state) => state.drafts[incoming.id]?.also) ?? {};
  const edit = useDrafts((state) => state.edit);
  const asks = otherAsks(incoming);
  if (!asks.length) return null;
  const put = (ask: number, more: AlsoInput | null) =>
    edit(incoming.id, {
      also: Object.fromEntries([
        ...Object.entries(also).filter(([key]) => Number(key) !== ask),
        ...(more ? [[String(ask), more] as const] : []),
      ]),
    });
  return (
    <fieldset className="mb-3 border-t border-rule pt-2">
      <legend className="pr-2 text-xs text-soft">
        It also asks <Key>{keyName(KEYS.sort.more)}</Key>
      </legend>
      {asks.map(([ask, title]) => {
        const more = also[ask];
        return (
          <div key={ask} className="flex items-start gap-2 py-[2px]">
            <input
              id={`ask-${ask}`}
              type="checkbox"
              className="mt-[3px] accent-teal"
              checked={more !== undefined}
              onChange={(event) => put(ask, event.target.checked ? { title } : null)}
            />
            <div className="min-w-0 flex-1">
              <label htmlFor={`ask-${ask}`} className={`block ${more ? '' : 'text-soft'}`}>
                {title}
              </label>
              {more && (
                <select
                  aria-label={`Where “${title}” goes`}
                  className="mt-[2px] max-w-full border border-soft bg-card text-xs"
                  value={more.day ?? more.list ?? ''}
                  onChange={(event) => {
                    const value = event.target.value;
                    const day = /^\d{4}-/.test(value);
                    put(ask, { title, ...(value ? (day ? { day: value } : { list: value }) : {}) });
                  }}
                >
                  <option value="">where the first goes</option>
                  {[0, 1, 2, 3, 4, 5, 6].map((ahead) => {
                    const day = addDays(today, ahead);
                    return (
                      <option key={day} value={day}>
                        {sayDay(day, today)}
                      </option>
                    );
                  })}
                  {lists.data?.map((list) => (
                    <option key={list.id}>{list.name}</option>
                  ))}
                </select>
              )}
            </div>
          </div>
        );
      })}
    </fieldset>
  );
}
