import { useState, type FormEvent, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { post } from '../../data/api';
import { useLongDraft } from '../../sheets/drafts';
import { field, primary } from './common';

/** The small window that the bookmarklet opens: the capture line with a page filled in. */
export function ClipPlace(): ReactNode {
  const [query] = useSearchParams();
  const [text, setText] = useState(query.get('title') ?? '');
  const [said, setSaid] = useState('');
  const [problem, setProblem] = useState('');
  const address = query.get('url') ?? '';
  const [written, setNote] = useLongDraft(`clip-${address}`);
  const note = written ?? query.get('text') ?? '';
  const url = /^https?:\/\//.test(address) ? address : '';
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setProblem('');
    try {
      const { sentence } = await post('/captures', {
        text,
        ...(note ? { note } : {}),
        ...(url ? { url } : {}),
      });
      setNote(null);
      setSaid(sentence);
    } catch (failed) {
      setProblem(failed instanceof Error ? failed.message : 'It was not kept.');
    }
  };
  if (said)
    return (
      <main className="p-6" role="status">
        <p className="font-head text-md font-semibold">{said}</p>
        <button type="button" className={`${primary} mt-3`} autoFocus onClick={() => window.close()}>
          Close
        </button>
      </main>
    );
  return (
    <main className="p-6">
      <h1 className="font-head text-md font-semibold">Keep this page</h1>
      <form onSubmit={(event) => void submit(event)} className="mt-3 space-y-3">
        <label className="block">
          Capture line
          <input className={field} value={text} required autoFocus onChange={(event) => setText(event.target.value)} />
        </label>
        <label className="block">
          Note
          <textarea className={`${field} h-28`} value={note} onChange={(event) => setNote(event.target.value)} />
        </label>
        {url && <p className="truncate text-xs text-soft">{url}</p>}
        <p role="alert" className="text-brick empty:hidden">
          {problem}
        </p>
        <button type="submit" className={primary}>
          Keep it
        </button>
      </form>
    </main>
  );
}
