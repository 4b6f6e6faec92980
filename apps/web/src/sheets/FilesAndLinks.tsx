import type { TaskChange, TaskFileInfo, TaskFull } from '@corvun/contract';
import { Link2 } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { removeFile } from '../data/thingActions';
import { AddFiles, FileLine } from './Files';

type Save = (change: TaskChange) => Promise<boolean>;

const small = 'text-xs text-soft underline underline-offset-2 hover:text-ink';
const LINK = /^(?:https?:\/\/|mailto:)\S+$/i;

/** A link as it was typed or pasted: without its scheme it is a page. */
const linkOf = (text: string): string | null => {
  const words = text.trim();
  if (LINK.test(words)) return words;
  return /^[\w-]+(?:\.[\w-]+)+(?:[/?#]\S*)?$/.test(words) ? `https://${words}` : null;
};

/** Files and links of a task: those of its message, and its own. */
export function FilesAndLinks({ task, save }: { task: TaskFull; save: Save }): ReactNode {
  const [adding, setAdding] = useState(false);
  const { attachmentList: files, links } = task;
  const carried = files.filter((file) => !file.own);
  const takeAway = (file: TaskFileInfo) =>
    file.own
      ? void removeFile(file.id)
      : void save({ attachments: carried.filter((one) => one.id !== file.id).map((one) => one.id) });
  return (
    <section aria-labelledby="files-head" className="mt-4">
      <h3 id="files-head" className="flex items-baseline gap-3 font-head font-semibold">
        Files and links
        <AddFiles to="task" id={task.id} />
        <button
          type="button"
          className="font-sans text-xs font-normal text-teal underline underline-offset-2"
          onClick={() => setAdding(true)}
        >
          add a link
        </button>
      </h3>
      {(files.length > 0 || links.length > 0) && (
        <ul className="mt-1">
          {files.map((file) => (
            <FileLine key={file.id} file={file} own={file.own} takeAway={() => takeAway(file)} />
          ))}
          {links.map((link, at) => (
            <li key={`${link.url}-${at}`} className="flex items-baseline gap-2 py-[2px]">
              <Link2 size={13} className="shrink-0 self-center text-soft" aria-hidden="true" />
              <a
                href={link.url}
                target="_blank"
                rel="noreferrer"
                className="min-w-0 truncate underline underline-offset-2"
                title={link.url}
              >
                {link.title || link.url.replace(/^https?:\/\//, '')}
              </a>
              <button
                type="button"
                className={`${small} ml-auto shrink-0`}
                aria-label={`Take away: the link ${link.title || link.url}`}
                onClick={() => void save({ links: links.filter((one) => one !== link) })}
              >
                take away
              </button>
            </li>
          ))}
        </ul>
      )}
      {adding && <NewLink add={(link) => void save({ links: [...links, link] })} close={() => setAdding(false)} />}
    </section>
  );
}

function NewLink({ add, close }: { add: (link: { url: string; title: string }) => void; close: () => void }): ReactNode {
  const [url, setUrl] = useState('');
  const [title, setTitle] = useState('');
  const [wrong, setWrong] = useState(false);
  return (
    <form
      noValidate
      aria-label="Add a link"
      className="mt-1 grid grid-cols-[1fr_1fr_auto] items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const link = linkOf(url);
        if (!link) return setWrong(true);
        add({ url: link, title: title.trim() });
        return close();
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        close();
      }}
    >
      <label className="text-xs text-soft">
        Address
        <input
          ref={(field) => {
            if (field && !url) field.focus();
          }}
          className="block w-full border-b border-soft bg-transparent text-sm text-ink"
          type="url"
          value={url}
          maxLength={2000}
          aria-invalid={wrong}
          aria-describedby="link-wrong"
          onChange={(event) => {
            setUrl(event.target.value);
            setWrong(false);
          }}
        />
      </label>
      <label className="text-xs text-soft">
        Its name
        <input
          className="block w-full border-b border-soft bg-transparent text-sm text-ink"
          value={title}
          maxLength={300}
          onChange={(event) => setTitle(event.target.value)}
        />
      </label>
      <button type="submit" className="border border-ink px-3 py-[2px] hover:bg-card">
        Add
      </button>
      <p id="link-wrong" role="alert" className="col-span-3 text-xs text-brick empty:hidden">
        {wrong ? 'Not an address. It begins with https:// or names a site, like alderfen.example/report.' : ''}
      </p>
    </form>
  );
}
