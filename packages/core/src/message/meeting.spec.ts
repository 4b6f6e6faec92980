import { instantOf } from '../time/zones';
import { readMessage } from './facts';
import { meetingIn } from './meeting';

const ZONE = 'Europe/Vienna';
const NOW = instantOf('2026-08-02T18:20', ZONE);
const said = (text: string) =>
  meetingIn(readMessage({ text, written: NOW, zone: ZONE }), NOW, ZONE, ['maren.holt@alder-fen.example']);

describe('what a message says of an event', () => {
  it('is its time, its place, its length and who is named', () => {
    expect(
      said(
        'Could we meet at the field hut on Thursday at 14:00? It takes 45 minutes. Please write to tomas@alder-fen.example and maren.holt@alder-fen.example.',
      ),
    ).toEqual({ when: '2026-08-06 14:00', minutes: 45, place: 'the field hut', addresses: ['tomas@alder-fen.example'] });
  });

  it('is its end, too, where that is said', () => {
    expect(said('The site walk is on Friday 10:00-11:30.').when).toBe('2026-08-07 10:00-11:30');
  });

  it('is no deadline, and nothing that is over', () => {
    expect(said('Please send it by Friday 12:00.').when).toBe('');
    expect(said('We met on Thursday at 10:00. Let us meet again on 11 August at 9:00.').when).toBe('2026-08-11 09:00');
  });
});
