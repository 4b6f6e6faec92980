import type ICAL from 'ical.js';
import { MOST_ALARMS, isTrigger, type Alarm } from '@corvun/core';
import { textOf } from './text';

const ACTIONS = new Set(['DISPLAY', 'EMAIL', 'AUDIO']);

/** VALARMs of an event or task (RFC 5545, 3.6.6) with a trigger that can be read; null where there is none at all. */
export function alarmsOf(component: ICAL.Component): Alarm[] | null {
  const all = component.getAllSubcomponents('valarm').slice(0, MOST_ALARMS);
  if (!all.length) return null;
  return all.flatMap((alarm): Alarm[] => {
    const action = textOf(alarm, 'action').toUpperCase();
    const property = alarm.getFirstProperty('trigger');
    // Durations as they are written: `-PT15M`; instants without the marks the parser puts in.
    const trigger = textOf(alarm, 'trigger')
      .replace(/[-:](?=\d)/g, '')
      .toUpperCase();
    if (!ACTIONS.has(action) || !property || !isTrigger(trigger)) return [];
    const related = String(property.getFirstParameter('related') ?? '').toUpperCase() === 'END' ? 'END' : 'START';
    return [{ action: action as Alarm['action'], trigger, related }];
  });
}

/**
 * Lines of VALARMs, not folded.
 * @param title already escaped
 * @param address of whoever gets those by mail
 */
export const alarmLines = (alarms: readonly Alarm[], title: string, address: string): string[] =>
  alarms.flatMap(({ action, trigger, related }) => {
    const mail = action === 'EMAIL' && address !== '';
    const kind = trigger.endsWith('Z') ? ';VALUE=DATE-TIME' : related === 'END' ? ';RELATED=END' : '';
    return [
      'BEGIN:VALARM',
      `ACTION:${action === 'EMAIL' && !mail ? 'DISPLAY' : action}`,
      `TRIGGER${kind}:${trigger}`,
      ...(action === 'AUDIO' ? [] : [`DESCRIPTION:${title}`]),
      ...(mail ? [`SUMMARY:${title}`, `ATTENDEE:mailto:${address}`] : []),
      'END:VALARM',
    ];
  });
