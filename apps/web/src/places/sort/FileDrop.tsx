import { useState, type DragEvent, type ReactNode } from 'react';

const holdsFiles = (event: DragEvent) => [...event.dataTransfer.types].includes('Files');

/** Files dropped anywhere on the place are taken in. */
export function FileDrop({ take, children }: { take: (files: Iterable<File>) => void; children: ReactNode }): ReactNode {
  const [over, setOver] = useState(false);
  return (
    <div
      className="relative h-full"
      onDragOver={(event) => {
        if (!holdsFiles(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={(event) => {
        if (!holdsFiles(event)) return;
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files);
      }}
    >
      {children}
      {over && (
        <div className="pointer-events-none absolute inset-2 z-30 grid place-items-center border-2 border-dashed border-teal bg-teal-wash/90 font-head text-md font-semibold">
          Drop files to take them in: .eml, mbox, .ics, .vcf, .csv, .md
        </div>
      )}
    </div>
  );
}
