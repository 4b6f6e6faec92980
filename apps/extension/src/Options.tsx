import { useEffect, useState, type FormEvent, type ReactNode } from 'react';
import { read, write } from './desk';
import { HeldSites } from './HeldSites';
import { Away, DEFAULT_SERVER, Refused, ask } from './link';

const field = 'block w-full border border-soft bg-card px-2 py-1';

/** Where the server is, and the token that opens it. */
export function Options(): ReactNode {
  const [server, setServer] = useState(DEFAULT_SERVER);
  const [token, setToken] = useState('');
  const [said, setSaid] = useState<{ text: string; wrong: boolean } | null>(null);
  const [connected, setConnected] = useState('');
  useEffect(() => {
    void read().then(({ link }) => {
      // What is being written already stays.
      setServer((written) => (written === DEFAULT_SERVER ? link.server : written));
      setToken((written) => written || link.token);
      if (link.token) setConnected(link.server);
    });
  }, []);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const address = server.trim().replace(/\/+$/, '');
    if (!URL.canParse(address) || !/^https?:/.test(address))
      return setSaid({ text: 'An address begins with http:// or https://.', wrong: true });
    const allowed = await chrome.permissions
      .request({ origins: [`${new URL(address).protocol}//${new URL(address).hostname}/*`] })
      .catch(() => false);
    if (!allowed) return setSaid({ text: 'The browser does not allow this address.', wrong: true });
    const link = { server: address, token: token.trim() };
    try {
      const { name } = await ask(link, 'GET /me', {});
      await write({ link, problem: '' });
      setConnected(address);
      setSaid({ text: `Connected as ${name}.`, wrong: false });
    } catch (problem) {
      const text =
        problem instanceof Away
          ? `Nothing answers at ${address}.`
          : problem instanceof Refused
            ? problem.message
            : 'That did not work.';
      setSaid({ text, wrong: true });
    }
  };
  return (
    <main className="mx-auto max-w-[480px] p-6">
      <h1 className="font-head text-lg font-semibold">Corvun in the browser</h1>
      <p className="mt-1 text-soft">
        In Corvun, open Sources, then Web pages and programs, and make a token there. It is kept in this browser only.
      </p>
      <form onSubmit={(event) => void submit(event)} className="mt-4 space-y-3">
        <label className="block">
          Address of Corvun
          <input className={field} value={server} required onChange={(event) => setServer(event.target.value)} />
        </label>
        <label className="block">
          Token
          <input
            className={field}
            type="password"
            value={token}
            required
            autoComplete="off"
            onChange={(event) => setToken(event.target.value)}
          />
        </label>
        <p role={said?.wrong ? 'alert' : 'status'} className={`empty:hidden ${said?.wrong ? 'text-brick' : 'text-teal'}`}>
          {said?.text}
        </p>
        <button type="submit" className="bg-teal px-4 py-1 font-semibold text-on-teal">
          Connect
        </button>
      </form>
      {connected && <HeldSites key={connected} server={connected} />}
    </main>
  );
}
