import { useEffect, useRef, type RefObject } from 'react';
import { useSettings } from '../../state/settings';
import { HOURS } from './grid';
import { usePlanning } from './planning';

/** Pixels of a wheel, or of a finger, after which the days turn. */
const TURN = 140;
const SWIPE = 70;
/** Milliseconds in which a wheel that still runs out turns nothing more. */
const REST = 450;

/** Makes hours taller or lower. */
export function zoom(by: number): void {
  const { plan, setPlan } = useSettings.getState();
  setPlan({ hour: Math.min(HOURS.most, Math.max(HOURS.least, plan.hour + by)) });
}

/** Wheel and fingers: sideways turns the days, with Ctrl or two fingers hours get taller or lower. */
export function useGestures(element: RefObject<HTMLElement | null>, turn: (by: number) => void): void {
  const latest = useRef(turn);
  useEffect(() => {
    latest.current = turn;
  });
  useEffect(() => {
    const here = element.current;
    if (!here) return undefined;
    let [run, rested] = [0, 0];
    let begun: { x: number; y: number } | null = null;
    const onWheel = (event: WheelEvent) => {
      if (event.ctrlKey) {
        event.preventDefault();
        zoom(Math.sign(-event.deltaY) * Math.min(HOURS.step, Math.abs(event.deltaY)));
        return;
      }
      if (Math.abs(event.deltaX) <= Math.abs(event.deltaY)) return;
      event.preventDefault();
      if (event.timeStamp < rested) return;
      run += event.deltaX;
      if (Math.abs(run) < TURN) return;
      latest.current(Math.sign(run));
      run = 0;
      rested = event.timeStamp + REST;
    };
    const onStart = ({ touches: [touch, second] }: TouchEvent) => {
      begun = touch && !second ? { x: touch.clientX, y: touch.clientY } : null;
    };
    const onEnd = ({ changedTouches: [touch] }: TouchEvent) => {
      // A finger that carries something turns nothing.
      if (!begun || !touch || usePlanning.getState().dragged) return;
      const [x, y] = [touch.clientX - begun.x, touch.clientY - begun.y];
      begun = null;
      if (Math.abs(x) > SWIPE && Math.abs(x) > 2 * Math.abs(y)) latest.current(-Math.sign(x));
    };
    here.addEventListener('wheel', onWheel, { passive: false });
    here.addEventListener('touchstart', onStart, { passive: true });
    here.addEventListener('touchend', onEnd, { passive: true });
    return () => {
      here.removeEventListener('wheel', onWheel);
      here.removeEventListener('touchstart', onStart);
      here.removeEventListener('touchend', onEnd);
    };
  }, [element]);
}
