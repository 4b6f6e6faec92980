import type { AttachmentInfo, EventFull } from '@corvun/contract';
import { saySize } from '@corvun/core';
import { FileText, Paperclip } from 'lucide-react';
import { useRef, useState, type ReactNode } from 'react';
import { addFiles, removeFile, renameFile } from '../data/thingActions';
import { leaveField } from '../parts/useKeys';

const small = 'text-xs text-soft underline underline-offset-2 hover:text-ink';

/** Picks files of this machine and puts them to a task or an event. */
export function AddFiles({ to, id }: { to: 'task' | 'event'; id: string }): ReactNode {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className="font-sans text-xs font-normal text-teal underline underline-offset-2"
        onClick={() => picker.current?.click()}
      >
        add files
      </button>
      <input
        ref={picker}
        type="file"
        multiple
        className="hidden"
        aria-label={`Files for this ${to}`}
        onChange={(event) => {
          if (event.target.files?.length) void addFiles(to, id, [...event.target.files]);
          event.target.value = '';
        }}
      />
    </>
  );
}

/** What was put to an event: the same for all its dates. */
export function EventFiles({ event }: { event: EventFull }): ReactNode {
  return (
    <section aria-labelledby="files-head" className="mt-4">
      <h3 id="files-head" className="flex items-baseline gap-3 font-head font-semibold">
        Files
        <AddFiles to="event" id={event.id} />
      </h3>
      {event.files.length > 0 && (
        <ul className="mt-1">
          {event.files.map((file) => (
            <FileLine key={file.id} file={file} own takeAway={() => void removeFile(file.id)} />
          ))}
        </ul>
      )}
    </section>
  );
}

interface FileProps {
  file: AttachmentInfo;
  /** It was put there by the user, not by a message. */
  own: boolean;
  takeAway: () => void;
}

/** A file: opened, renamed, taken away. */
export function FileLine({ file, own, takeAway }: FileProps): ReactNode {
  const [name, setName] = useState<string | null>(null);
  const Icon = own ? FileText : Paperclip;
  const leave = () => {
    if (name?.trim() && name.trim() !== file.name) void renameFile(file.id, name.trim());
    setName(null);
  };
  return (
    <li className="flex items-baseline gap-2 py-[2px]">
      <Icon size={13} className="shrink-0 self-center text-soft" aria-hidden="true" />
      {name === null ? (
        <a
          href={file.url}
          target="_blank"
          rel="noreferrer"
          className="min-w-0 truncate underline underline-offset-2"
          title={file.name}
        >
          {file.name}
        </a>
      ) : (
        <input
          autoFocus
          // What stands before the dot is what is written over.
          onFocus={(event) => event.target.setSelectionRange(0, file.name.replace(/\.[^.]*$/, '').length)}
          aria-label={`New name of ${file.name}`}
          className="min-w-0 flex-1 border-b border-teal bg-transparent"
          value={name}
          maxLength={200}
          onChange={(event) => setName(event.target.value)}
          onBlur={leave}
          onKeyDown={(event) => {
            if (event.key === 'Enter') leaveField(event.currentTarget);
            if (event.key !== 'Escape') return;
            event.stopPropagation();
            setName(null);
          }}
        />
      )}
      <span className="shrink-0 text-xs text-soft">
        {saySize(file.size)}
        {!own && ', from the message'}
      </span>
      <span className="ml-auto flex shrink-0 gap-2">
        {own && name === null && (
          <button type="button" className={small} aria-label={`Rename ${file.name}`} onClick={() => setName(file.name)}>
            rename
          </button>
        )}
        <button type="button" className={small} aria-label={`Take away: ${file.name}`} onClick={takeAway}>
          take away
        </button>
      </span>
    </li>
  );
}
