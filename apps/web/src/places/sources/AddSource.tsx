import type { NearPlace, SourceInput, SourceKind, SourceLook, SourceSettings } from '@corvun/contract';
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { RequestError } from '../../data/api';
import { client } from '../../data/queries';
import { addSource, lookAt, useNear } from '../../data/sources';
import { useSaid } from '../../state/said';
import { Choose } from './Choose';
import { ICONS, KIND_NAMES, button, field, primary, quiet } from './common';
import { Preview } from './Preview';

const ABOUT: Record<SourceKind, { what: string; address: string; example: string; secret: string | null; account: boolean }> = {
  mailbox: {
    what: 'Mail from the folders you choose. Nothing is marked as read.',
    address: 'Server',
    example: 'imaps://mail.alderfen.example:993',
    secret: 'Password',
    account: true,
  },
  chat: {
    what: 'What is addressed to you, and what you mark for yourself.',
    address: 'Address',
    example: 'https://chat.alderfen.example',
    secret: 'Token',
    account: false,
  },
  tracker: {
    what: 'Your own cards that are ready, both ways.',
    address: 'Address',
    example: 'https://tracker.alderfen.example',
    secret: 'Token',
    account: false,
  },
  notes: {
    what: 'Task lines of Markdown files, both ways.',
    address: 'Folder on this machine',
    example: '/home/maren/Notes',
    secret: null,
    account: false,
  },
  feed: {
    what: 'Events of a calendar that others keep.',
    address: 'Address of the .ics file',
    example: 'https://county.example/hearings.ics',
    secret: null,
    account: false,
  },
};

/** Connecting a source: how to reach it, what to bring in with a count of it, then it fills. */
export function AddSource(): ReactNode {
  const { id } = useParams();
  const [query] = useSearchParams();
  const places = useNear();
  const kind = id && id in ABOUT ? (id as SourceKind) : null;
  const near = places.data?.find((one) => one.kind === kind && one.address === query.get('at'));
  return (
    <div className="max-w-[620px]">
      {kind ? (
        <Reach key={`${kind}${near?.address ?? ''}`} kind={kind} near={near} />
      ) : (
        <>
          <h2 className="font-head text-md font-semibold">What do you want to connect?</h2>
          <ul className="mt-2 border-t border-rule">
            {(Object.keys(ABOUT) as SourceKind[]).map((one) => {
              const Icon = ICONS[one];
              return (
                <li key={one} className="border-b border-rule">
                  <Link to={`/sources/add/${one}`} className="flex items-center gap-4 py-3 hover:bg-card">
                    <Icon size={20} className="text-teal" aria-hidden="true" />
                    <span>
                      <b className="font-semibold">{KIND_NAMES[one]}</b>
                      <span className="block text-soft">{ABOUT[one].what}</span>
                    </span>
                  </Link>
                </li>
              );
            })}
          </ul>
          {(places.data?.length ?? 0) > 0 && (
            <>
              <h2 className="mt-8 font-head text-md font-semibold">Near by, in the demo’s outside world</h2>
              <ul className="mt-2 border-t border-rule">
                {places.data?.map((one) => (
                  <li key={one.address} className="border-b border-rule">
                    <Link
                      to={`/sources/add/${one.kind}?at=${encodeURIComponent(one.address)}`}
                      className="flex items-baseline gap-3 py-2 hover:bg-card"
                    >
                      <b className="font-semibold">{one.name}</b>
                      <span className="text-xs text-soft">{KIND_NAMES[one.kind]}</span>
                      <span className="ml-auto truncate text-xs text-soft">{one.address}</span>
                    </Link>
                  </li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
    </div>
  );
}

function Reach({ kind, near }: { kind: SourceKind; near: NearPlace | undefined }): ReactNode {
  const about = ABOUT[kind];
  const navigate = useNavigate();
  const [input, setInput] = useState<SourceInput>(near ?? { kind, name: KIND_NAMES[kind], address: '' });
  const asked = useRef(0);
  const [look, setLook] = useState<SourceLook | null>(null);
  const [asking, setAsking] = useState(false);
  const [connecting, setConnecting] = useState(false);
  const [problem, setProblem] = useState<{ field: string; text: string } | null>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  const put = (patch: Partial<SourceInput>) => setInput((before) => ({ ...before, ...patch }));
  const chosen = look !== null;
  useEffect(() => {
    if (chosen) heading.current?.focus();
  }, [chosen]);
  const ask = async (settings?: SourceSettings) => {
    const turn = (asked.current += 1);
    setAsking(true);
    setProblem(null);
    try {
      const found = await lookAt({ ...input, ...(settings ? { settings } : {}) });
      // While words are typed, only the answer to the last question counts.
      if (turn !== asked.current) return;
      setLook(found);
      put({ settings: settings ?? found.settings });
    } catch (failed) {
      if (turn !== asked.current) return;
      const fields = failed instanceof RequestError ? failed.fields : {};
      setProblem({
        field: Object.keys(fields)[0] ?? 'address',
        text: failed instanceof Error ? failed.message : 'It does not answer.',
      });
    } finally {
      if (turn === asked.current) setAsking(false);
    }
  };
  const connect = async () => {
    if (connecting) return;
    setConnecting(true);
    try {
      const source = await addSource(input);
      await Promise.all(['sources', 'calendars', 'days'].map((key) => client.invalidateQueries({ queryKey: [key] })));
      useSaid.getState().say(`${source.name} is connected`, 'none');
      void navigate('/sources');
    } catch (failed) {
      setProblem({ field: 'address', text: failed instanceof Error ? failed.message : 'It does not answer.' });
      setConnecting(false);
    }
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void (look ? connect() : ask());
  };
  return (
    <form onSubmit={submit} className="space-y-3">
      <p>
        <Link className={quiet} to="/sources/add">
          Another kind
        </Link>
      </p>
      <h2 ref={heading} tabIndex={-1} className="font-head text-md font-semibold outline-none">
        {look ? `What comes in from ${input.name}` : `Connect: ${KIND_NAMES[kind]}`}
      </h2>
      {look ? (
        <>
          <Choose
            kind={kind}
            look={look}
            settings={input.settings ?? {}}
            set={(settings) => {
              put({ settings });
              void ask(settings);
            }}
          />
          <Preview look={look} />
        </>
      ) : (
        <>
          <label className="block">
            Name
            <input
              className={field}
              value={input.name}
              required
              maxLength={80}
              onChange={(event) => put({ name: event.target.value })}
            />
          </label>
          <label className="block">
            {about.address}
            <input
              className={field}
              value={input.address}
              required
              autoFocus
              autoComplete="off"
              placeholder={about.example}
              aria-invalid={problem?.field === 'address'}
              aria-describedby="address-problem"
              onChange={(event) => put({ address: event.target.value })}
            />
          </label>
          {about.account && (
            <label className="block">
              User name
              <input
                className={field}
                value={input.account ?? ''}
                autoComplete="off"
                onChange={(event) => put({ account: event.target.value })}
              />
            </label>
          )}
          {about.secret && (
            <label className="block">
              {about.secret}
              <input
                className={field}
                type="password"
                value={input.secret ?? ''}
                autoComplete="off"
                onChange={(event) => put({ secret: event.target.value })}
              />
              <span className="text-xs text-soft">Kept encrypted on this machine, never shown again.</span>
            </label>
          )}
        </>
      )}
      <p id="address-problem" role="alert" className="text-brick empty:hidden">
        {problem?.text}
      </p>
      <div className="flex gap-2">
        <button type="submit" className={primary} disabled={look ? connecting : asking}>
          {look ? (connecting ? 'Connecting …' : 'Connect and bring it in') : asking ? 'Asking …' : 'See what would come in'}
        </button>
        {look && (
          <button type="button" className={button} onClick={() => setLook(null)}>
            Back
          </button>
        )}
      </div>
    </form>
  );
}
