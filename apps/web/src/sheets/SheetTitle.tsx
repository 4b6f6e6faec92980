import type { ReactNode } from 'react';
import { useKeptField } from './drafts';

interface TitleProps {
  /** Under which what is written is kept. */
  draft: string;
  /** What it is the title of: `task`, `event`. */
  of: string;
  title: string;
  soft?: boolean;
  save: (title: string) => Promise<boolean>;
}

/** The title of a sheet, written where it stands and kept when it is left. */
export function SheetTitle({ draft, of, title, soft = false, save }: TitleProps): ReactNode {
  const { text, empty, write, leave } = useKeptField(draft, title, save);
  return (
    <div className="min-w-0 flex-1">
      <textarea
        id="sheet-title"
        aria-label="Title"
        rows={1}
        className={`field-sizing-content w-full resize-none border-b border-transparent bg-transparent font-head text-lg leading-[29px] font-semibold tracking-tight hover:border-soft focus:border-teal ${soft ? 'text-soft' : ''}`}
        value={text}
        maxLength={500}
        aria-invalid={empty}
        aria-describedby="title-wrong"
        onChange={(event) => write(event.target.value.replace(/\n/g, ' '))}
        onBlur={() => void leave()}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' && event.key !== 'Escape') return;
          event.preventDefault();
          event.stopPropagation();
          if (event.key === 'Escape') write(null);
          event.currentTarget.closest<HTMLElement>('[data-sheet]')?.focus();
        }}
      />
      <p id="title-wrong" role="alert" className="text-xs text-brick empty:hidden">
        {empty ? `The ${of} needs a title. Esc brings the one it had back.` : ''}
      </p>
    </div>
  );
}
