import type { HeadsDownInfo, Me } from '@corvun/contract';
import { dayOf, sayTime } from '@corvun/core';
import { useEffect, useRef } from 'react';
import { useNowState } from '../../data/doing';
import { client, useDays } from '../../data/queries';
import { serverNow, useNow } from '../../parts/useNow';
import { permission } from '../../reminders/notify';
import { at as standAt } from './standing';

const AHEAD = 14;
/** Milliseconds by which a clock may be off until the server is asked again. */
const STEP = 1500;
/** Milliseconds after which what should have turned by itself is looked up. */
const LATE = 700;

interface Badge {
  setAppBadge?: (count: number) => Promise<void>;
  clearAppBadge?: () => Promise<void>;
}

const TURNS = {
  work: ['Work', 'The pause is over'],
  short: ['Pause', 'A short one'],
  long: ['Long pause', 'A long one'],
  over: ['The pause is over', 'Go on when you are ready'],
} as const;

/** The title of the window, the badge of the installed one, and what the system says at each turn of heads-down. */
export function Running({ me }: { me: Me }): null {
  const now = useNow(15_000);
  const day = useDays(dayOf(now, me.zone), AHEAD).data?.[0];
  const state = useNowState().data;
  const alone = state?.headsDown ?? null;
  const { running, block, event } = standAt(day?.entries ?? [], state?.timer ?? null, now);
  const runs = event ?? block;
  const end = alone?.until ? Date.parse(alone.until) : alone ? null : (runs?.end ?? null);
  const name = alone
    ? `${alone.phase === 'work' ? alone.title : TURNS[alone.phase][0]}`
    : (event?.entry.title ?? state?.timer?.title ?? block?.entry.title ?? '');
  useTitle(name && `${name}${end === null ? '' : `, until ${sayTime(end, me.zone)}`}`, end === null ? 0 : running.left);
  useTurns(alone, me.settings.headsDown.sound);
  useSteadyClock();
  return null;
}

function useTitle(words: string, left: number): void {
  useEffect(() => {
    document.title = words ? `${words} · Corvun` : 'Corvun';
    const badge = navigator as Badge;
    void (left > 0 ? badge.setAppBadge?.(left) : badge.clearAppBadge?.())?.catch(() => undefined);
  }, [words, left]);
}

/** Says at each turn that came by itself what it is, once for all windows: the system replaces what has the same tag. */
function useTurns(alone: HeadsDownInfo | null, sound: boolean): void {
  const before = useRef<{ phase: string; until: string | null } | null>(null);
  const { phase, from, until, title } = alone ?? { phase: null, from: '', until: null, title: '' };
  useEffect(() => {
    const was = before.current;
    before.current = phase ? { phase, until } : null;
    // What one did oneself begins at another moment, and needs no telling.
    if (!was?.until || was.until !== from || phase === null || phase === 'work') return;
    if (permission() === 'granted')
      new Notification(TURNS[phase][0], { body: `${title}\n${TURNS[phase][1]}`, tag: `heads-down ${from}` });
    if (sound) ring();
  }, [phase, from, until, title, sound]);
  useEffect(() => {
    if (!until) return undefined;
    const timer = window.setTimeout(
      () => void client.invalidateQueries({ queryKey: ['now'] }),
      Math.max(0, Date.parse(until) - serverNow()) + LATE,
    );
    return () => window.clearTimeout(timer);
  }, [until]);
}

/** Two short tones. */
function ring(): void {
  const context = new AudioContext();
  for (const [at, pitch] of [
    [0, 660],
    [0.2, 880],
  ] as const) {
    const tone = new OscillatorNode(context, { frequency: pitch });
    const volume = new GainNode(context, { gain: 0.15 });
    tone.connect(volume).connect(context.destination);
    tone.start(context.currentTime + at);
    tone.stop(context.currentTime + at + 0.15);
    if (at > 0) tone.onended = () => void context.close();
  }
}

/** After sleep, or where the clock of this machine was set, the server is asked again what time it is. */
function useSteadyClock(): void {
  useEffect(() => {
    let [wall, steady] = [Date.now(), performance.now()];
    const look = () => {
      const off = Date.now() - wall - (performance.now() - steady);
      [wall, steady] = [Date.now(), performance.now()];
      if (Math.abs(off) > STEP) void client.invalidateQueries({ queryKey: ['me'] });
    };
    const timer = window.setInterval(look, 5000);
    document.addEventListener('visibilitychange', look);
    return () => {
      window.clearInterval(timer);
      document.removeEventListener('visibilitychange', look);
    };
  }, []);
}
