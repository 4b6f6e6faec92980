import type { Me } from '@corvun/contract';
import { dayOf, sayMinutes } from '@corvun/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { takesLonger } from '../../data/doing';
import { Key } from '../../parts/signs';
import { serverNow } from '../../parts/useNow';
import { begin } from '../plan/proposing';
import { button } from '../sources/common';

const LENGTHS = [15, 30, 45, 60];

/** What runs needs longer: how much, with the rest of the day pushed; or the rest is planned again. */
export function Longer({ me, blockId, close }: { me: Me; blockId: string; close: () => void }): ReactNode {
  const navigate = useNavigate();
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => frame.current?.querySelector('button')?.focus(), []);
  const take = (minutes: number) => {
    close();
    void takesLonger(blockId, minutes);
  };
  const again = () => {
    close();
    void navigate('/plan');
    void begin({ from: dayOf(serverNow(), me.zone), days: '1', what: 'these', again: 'true' });
  };
  return (
    <div
      ref={frame}
      role="group"
      aria-label="How much longer"
      className="mt-4 flex flex-wrap items-center gap-2 border border-teal bg-card p-2"
      onKeyDown={(event) => {
        if (event.ctrlKey || event.metaKey || event.altKey) return;
        const minutes = LENGTHS[Number(event.key) - 1];
        if (minutes) take(minutes);
        else if (event.key === 'p') again();
        else if (event.key === 'Escape') close();
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <p className="w-full text-xs text-soft">How much longer? The rest of your own time moves after it.</p>
      {LENGTHS.map((minutes, at) => (
        <button key={minutes} type="button" className={button} onClick={() => take(minutes)}>
          <Key>{at + 1}</Key> {sayMinutes(minutes)}
        </button>
      ))}
      <button type="button" className={button} onClick={again}>
        <Key>P</Key> Plan the rest again
      </button>
    </div>
  );
}
