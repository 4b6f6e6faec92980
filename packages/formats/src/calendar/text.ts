import type ICAL from 'ical.js';

/** The text of a property; empty where there is none or it cannot be read. */
export function textOf(component: ICAL.Component, name: string): string {
  try {
    return String(component.getFirstPropertyValue(name) ?? '');
  } catch {
    return '';
  }
}
