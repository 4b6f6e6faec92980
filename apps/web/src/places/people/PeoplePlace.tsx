import type { Me, PersonOpen } from '@corvun/contract';
import { PersonInput } from '@corvun/contract/people';
import { useState, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { addPerson, peopleLike, useOpenWith } from '../../data/people';
import { usePeople } from '../../data/queries';
import { FormProblem, RuledField, useRuled } from '../../parts/form';
import { Failed, Waiting } from '../../parts/states';
import { useOpenPerson } from '../../sheets/open';
import { button, primary, quiet } from '../sources/common';

/** Everybody one has to do with; each opens as a card beside the list. */
export function PeoplePlace(_: { me: Me }): ReactNode {
  const people = usePeople();
  const openWith = useOpenWith();
  const [query, setQuery] = useSearchParams();
  const [adding, setAdding] = useState(false);
  const open = useOpenPerson();
  const text = query.get('q') ?? '';
  if (people.isPending) return <Waiting what="Opening the people" />;
  if (!people.data) return <Failed problem={people.error ?? new Error()} retry={() => void people.refetch()} />;
  const shown = text.trim() ? peopleLike(people.data, text) : people.data;
  const chosen = query.get('person');
  return (
    <div className="flex h-full flex-col overflow-y-auto">
      <div className="w-full max-w-[760px] px-8 pt-6 pb-16 max-md:px-4">
        <h1 className="font-head text-lg font-semibold tracking-tight">People</h1>
        <p className="mt-1 max-w-[66ch] text-soft">
          {people.data.length
            ? `${people.data.length === 1 ? 'One' : people.data.length} you have to do with: what is open with each, and all that was.`
            : 'Whoever you keep from a message, read in from a .vcf file or write down here is found again by address.'}
        </p>
        <div className="mt-4 flex flex-wrap items-end gap-3">
          {people.data.length > 0 && (
            <label className="min-w-[200px] flex-1 text-xs text-soft">
              Find by name, address or organisation
              <input
                type="search"
                className="mt-[3px] block w-full border-b border-soft bg-transparent py-1 text-sm text-ink"
                value={text}
                autoComplete="off"
                onChange={(event) =>
                  setQuery(
                    (old) => {
                      if (event.target.value) old.set('q', event.target.value);
                      else old.delete('q');
                      return old;
                    },
                    { replace: true },
                  )
                }
              />
            </label>
          )}
          <button type="button" className={button} aria-expanded={adding} onClick={() => setAdding(!adding)}>
            Somebody new
          </button>
          <Link to="/sources/files" className={`${quiet} py-1`}>
            Read a .vcf file in
          </Link>
        </div>
        {adding && (
          <NewPerson
            done={(id) => {
              setAdding(false);
              if (id) open(id);
            }}
          />
        )}
        <p role="status" className="mt-3 min-h-4 text-xs text-soft">
          {text.trim() ? (shown.length ? `${shown.length} of ${people.data.length}` : 'Nobody is like this.') : ''}
        </p>
        <ul aria-label="People" className="border-b border-rule">
          {shown.map(({ id, name, address, organisation }) => (
            <li key={id} className={`border-t border-rule ${id === chosen ? 'bg-card' : ''}`}>
              <button
                type="button"
                data-person={id}
                aria-current={id === chosen || undefined}
                className="flex w-full items-baseline gap-4 py-[6px] text-left hover:bg-card"
                onClick={() => open(id)}
              >
                <b className="w-[180px] shrink-0 truncate font-semibold max-md:w-auto">{name}</b>
                <span className="min-w-0 flex-1 truncate text-soft">{address}</span>
                <span className="min-w-0 truncate text-xs text-soft max-md:hidden">{organisation}</span>
                <span className="shrink-0 text-right text-xs text-soft max-md:hidden">{saysOpen(openWith.data?.get(id))}</span>
              </button>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

/** What is open with somebody in a few words: `2 to decide · 5 to do · 1 waits`. */
const saysOpen = (open: PersonOpen | undefined): string =>
  open
    ? [open.asking && `${open.asking} to decide`, open.tasks && `${open.tasks} to do`, open.waiting && `${open.waiting} waiting`]
        .filter(Boolean)
        .join(' · ')
    : '';

interface Fields {
  name: string;
  address: string;
}

function NewPerson({ done }: { done: (id?: string) => void }): ReactNode {
  const { form, submit } = useRuled<Fields>(PersonInput, { name: '', address: '' }, async (values) =>
    done(await addPerson(values)),
  );
  return (
    <form
      aria-label="Somebody new"
      className="mt-4 max-w-[420px] border border-ink bg-card p-4"
      noValidate
      onSubmit={submit}
      onKeyDown={(event) => event.key === 'Escape' && done()}
    >
      <RuledField form={form} name="name" label="Name" autoFocus />
      <RuledField form={form} name="address" label="Mail address" type="email" hint="By it they are found again." />
      <FormProblem form={form} />
      <div className="mt-2 flex gap-3">
        <button type="submit" className={primary}>
          Keep
        </button>
        <button type="button" className={button} onClick={() => done()}>
          Leave it
        </button>
      </div>
    </form>
  );
}
