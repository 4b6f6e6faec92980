import { useEffect, useRef, type ReactNode } from 'react';
import { KEYS, keyName } from '../keys';
import { Markdown } from '../parts/Markdown';
import { Key } from '../parts/signs';
import { useLongDraft } from './drafts';

interface NotesProps {
  /** Under which what is written is kept. */
  draft: string;
  name?: string;
  text: string;
  most?: number;
  /** Resolves to whether it was kept; left out: it can only be read. */
  save: ((text: string) => Promise<boolean>) | undefined;
}

/** Notes of a thing: read as they are meant (CommonMark), written as they are; kept when the field is left. */
export function Notes({ draft, name = 'Notes', text: kept, most = 100_000, save }: NotesProps): ReactNode {
  const [text, write] = useLongDraft(draft);
  const area = useRef<HTMLTextAreaElement>(null);
  const writing = text !== null;
  const asked = useRef(false);
  useEffect(() => {
    if (writing && asked.current) area.current?.focus();
    asked.current = false;
  }, [writing]);
  const begin = () => {
    asked.current = true;
    write(kept);
  };
  const leave = async () => {
    if (text === null) return;
    if (text === kept || !save || (await save(text))) write(null);
  };
  return (
    <section aria-labelledby="notes-head" className="mt-4">
      <h3 id="notes-head" className="flex items-baseline gap-2 font-head font-semibold">
        {name}
        {!writing && save && (
          <button
            type="button"
            id="write-notes"
            className="font-sans text-xs font-normal text-teal underline underline-offset-2"
            onClick={begin}
          >
            {kept.trim() ? 'change' : 'write'} <Key>{keyName(KEYS.sheet.notes)}</Key>
          </button>
        )}
      </h3>
      {writing ? (
        <>
          <textarea
            ref={area}
            aria-label={`${name}, in Markdown`}
            className="mt-1 field-sizing-content min-h-24 w-full border border-soft bg-card p-2"
            value={text}
            maxLength={most}
            onChange={(event) => write(event.target.value)}
            onBlur={() => void leave()}
            onKeyDown={(event) => {
              if (event.key !== 'Escape' && !(event.key === 'Enter' && (event.ctrlKey || event.metaKey))) return;
              event.preventDefault();
              event.stopPropagation();
              (event.currentTarget.closest<HTMLElement>('[data-sheet]') ?? document.getElementById('place'))?.focus();
            }}
          />
          <p className="text-xs text-soft">Markdown. It is kept when you leave the field; Esc leaves it.</p>
        </>
      ) : (
        kept.trim() !== '' && (
          <div className="mt-1">
            <Markdown text={kept} />
          </div>
        )
      )}
    </section>
  );
}
