import { useEffect, useRef, useState, type ClipboardEvent, type DragEvent } from 'react';
import { addFiles } from '../data/thingActions';

/** Files that are dropped on the sheet, or pasted while it has the focus, go to its task or event. @returns its class while they are over it */
export function useFileDrop(to: 'task' | 'event', id: string) {
  const [over, setOver] = useState(false);
  const isFiles = (event: DragEvent) => event.dataTransfer.types.includes('Files');
  const latest = useRef(id);
  useEffect(() => {
    latest.current = id;
  });
  return {
    over: over ? 'outline-2 -outline-offset-4 outline-dashed outline-teal' : '',
    onDragOver: (event: DragEvent) => {
      if (!isFiles(event)) return;
      event.preventDefault();
      event.stopPropagation();
      setOver(true);
    },
    onDragLeave: () => setOver(false),
    onDrop: (event: DragEvent) => {
      setOver(false);
      if (!isFiles(event)) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.dataTransfer.files.length) void addFiles(to, latest.current, [...event.dataTransfer.files]);
    },
    onPaste: (event: ClipboardEvent) => {
      const files = [...event.clipboardData.files];
      if (!files.length) return;
      event.preventDefault();
      void addFiles(to, latest.current, files);
    },
  };
}
