import type { TaskInfo } from '@corvun/contract';
import type { ReactNode } from 'react';
import { outOfTasks } from '../../data/thingActions';
import { DeedsMenu } from '../../parts/DeedsMenu';
import { useSaid } from '../../state/said';

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
    <DeedsMenu
      label="print, copy, save"
      className="text-teal disabled:opacity-50"
      disabled={!ids.length}
      deeds={[
        { name: 'Print', run: print },
        { name: 'Copy as text', run: () => void copy('text') },
        { name: 'Copy as Markdown', run: () => void copy('md') },
        ...(Object.keys(FILES) as (keyof typeof FILES)[]).map((format) => ({
          name: `Save as .${format}`,
          run: () => void save(format),
        })),
      ]}
    />
  );
}
