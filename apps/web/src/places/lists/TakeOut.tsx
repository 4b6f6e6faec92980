import type { TaskInfo } from '@corvun/contract';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { outOfTasks } from '../../data/thingActions';
import { useSaid } from '../../state/said';

const item = 'px-3 py-1 outline-none data-[highlighted]:bg-teal-wash';
const FILES = { csv: 'text/csv', ics: 'text/calendar', md: 'text/markdown' } as const;

/** What is shown, on paper, in the clipboard or as a file in an open format. */
export function TakeOut({ title, tasks, print }: { title: string; tasks: readonly TaskInfo[]; print: () => void }): ReactNode {
  const ids = tasks.map((task) => task.id);
  const { say, complain } = useSaid.getState();
  const copy = async (format: 'text' | 'md') => {
    try {
      await navigator.clipboard.writeText(await outOfTasks(ids, format));
      say(format === 'md' ? 'Copied as Markdown' : 'Copied as text', 'none');
    } catch (problem) {
      complain(problem);
    }
  };
  const save = async (format: keyof typeof FILES) => {
    try {
      const url = URL.createObjectURL(new Blob([await outOfTasks(ids, format)], { type: FILES[format] }));
      const link = document.createElement('a');
      link.href = url;
      link.download = `${title.replace(/[^\p{L}\p{N} ,-]+/gu, '').slice(0, 80) || 'Tasks'}.${format}`;
      link.click();
      URL.revokeObjectURL(url);
    } catch (problem) {
      complain(problem);
    }
  };
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        disabled={!ids.length}
        className="min-h-6 text-xs text-teal underline underline-offset-2 disabled:opacity-50"
      >
        print, copy, save
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={2}
          collisionPadding={8}
          className="z-50 min-w-[190px] border border-ink bg-card py-1 shadow-lg"
        >
          <DropdownMenu.Item className={item} onSelect={print}>
            Print
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => void copy('text')}>
            Copy as text
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => void copy('md')}>
            Copy as Markdown
          </DropdownMenu.Item>
          {(Object.keys(FILES) as (keyof typeof FILES)[]).map((format) => (
            <DropdownMenu.Item key={format} className={item} onSelect={() => void save(format)}>
              Save as .{format}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
