import type { May } from '@corvun/contract';
import { TokenInput } from '@corvun/contract/inputs';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useQuiet } from '../../data/doing';
import { addToken, removeToken, useTokens } from '../../data/sources';
import { FormProblem, RuledField, useRuled } from '../../parts/form';
import { useNow } from '../../parts/useNow';
import { useMe } from '../../data/queries';
import { button, field, primary, saysPast } from './common';

const MAY_WORDS: Record<May, string> = {
  write: 'read and write',
  read: 'only read',
  calendars: 'calendar programs only',
  account: 'everything, backups and tokens, too',
};

/** The browser extension, the bookmarklet, and tokens for them and for other programs. */
export function FromTheWeb(): ReactNode {
  const now = useNow();
  const me = useMe();
  const tokens = useTokens();
  const seen = useQuiet().data?.extension;
  const [secret, setSecret] = useState('');
  const [may, setMay] = useState<May>('write');
  const clip = `javascript:(()=>{const s=String(getSelection()).slice(0,2000);open('${window.location.origin}/clip?title='+encodeURIComponent(document.title)+'&url='+encodeURIComponent(location.href)+'&text='+encodeURIComponent(s),'corvun','width=520,height=460')})()`;
  const { form, submit } = useRuled<{ name: string }>(TokenInput, { name: 'Browser' }, async ({ name }) =>
    setSecret((await addToken(name, may)).token),
  );
  return (
    <div className="grid max-w-[720px] gap-8">
      <section>
        <h2 className="font-head text-md font-semibold">Browser extension</h2>
        <p className="text-soft">
          A button and a key in the browser: the capture line with the page filled in, what runs, today’s agenda and your open
          tasks. It works while the server is away, and sends later. In quiet time it holds back{' '}
          <Link to="/settings#held-sites" className="text-teal underline underline-offset-2">
            the sites you chose
          </Link>
          .
        </p>
        {seen && <p className="mt-1">It was last heard of {saysPast(seen, now, me.data?.zone ?? 'UTC')}.</p>}
        <ol className="mt-2 list-decimal pl-5">
          <li>
            In the browser open the page of extensions, turn developer mode on, and load the folder{' '}
            <code>apps/extension/dist</code>.
          </li>
          <li>
            Make a token below, and give it to the extension with the address{' '}
            <code className="select-text">{window.location.origin}</code>.
          </li>
          <li>In its options, allow it the sites that are to be held back: the browser asks once for each.</li>
        </ol>
      </section>
      <section>
        <h2 className="font-head text-md font-semibold">Bookmarklet</h2>
        <p className="text-soft">
          Without the extension: make a bookmark with this address. On any page it opens the capture line with title, address and
          what you selected.
        </p>
        <label className="mt-2 block">
          Address of the bookmark
          <textarea
            className={`${field} h-20 font-mono text-xs break-all`}
            readOnly
            value={clip}
            onFocus={(event) => event.target.select()}
          />
        </label>
      </section>
      <section>
        <h2 className="font-head text-md font-semibold">Calendar programs</h2>
        <p className="text-soft">
          A telephone or a desk calendar shows and changes your calendars and lists by CalDAV. Give it the address{' '}
          <code className="select-text">{window.location.origin}/dav/</code>, your mail address as the name, and a token as the
          password, best one for calendar programs only.
        </p>
      </section>
      <section>
        <h2 className="font-head text-md font-semibold">Tokens</h2>
        <p className="text-soft">
          For the extension, the command line and your own programs. Programs write to <code>POST /api/captures</code> with{' '}
          <code>{'{"text", "note", "url"}'}</code> and the token as a bearer token.{' '}
          <a href="/api" className="text-teal underline underline-offset-2">
            All that programs can do
          </a>
        </p>
        <form onSubmit={submit} noValidate className="mt-2 flex flex-wrap items-start gap-2">
          <div className="min-w-48 flex-1">
            <RuledField form={form} name="name" label="What it is for" className={field} />
          </div>
          <label className="block min-w-48 max-md:flex-1">
            <span className="block text-xs text-soft">What it may do</span>
            <select className={field} value={may} onChange={(event) => setMay(event.target.value as May)}>
              {Object.entries(MAY_WORDS).map(([one, words]) => (
                <option key={one} value={one}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          <button type="submit" className={`${primary} mt-[18px]`}>
            Make a token
          </button>
        </form>
        <FormProblem form={form} />
        {secret && (
          <label className="mt-2 block border border-teal bg-teal-wash p-3">
            The new token, shown this once
            <input className={`${field} font-mono`} readOnly value={secret} onFocus={(event) => event.target.select()} />
          </label>
        )}
        <ul className="mt-3 border-t border-rule">
          {tokens.data?.map((one) => (
            <li key={one.id} className="flex items-center justify-between gap-3 border-b border-rule py-2">
              <span>
                {one.name}{' '}
                <span className="text-xs text-soft">
                  made {saysPast(one.created, now, me.data?.zone ?? 'UTC')}
                  {one.may !== 'write' && `, ${MAY_WORDS[one.may]}`}
                </span>
              </span>
              <button type="button" className={`${button} text-xs`} onClick={() => void removeToken(one.id)}>
                Withdraw
              </button>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
