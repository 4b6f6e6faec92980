import { outsideOn, sayWeather, type HourOfWeather } from './weather';

/** @param rain by hour, in millimetres */
const day = (rain: Record<number, number> = {}, wind = 10, celsius = (hour: number) => 8 + hour / 2): HourOfWeather[] =>
  [...Array(24).keys()].map((hour) => ({ hour, celsius: celsius(hour), rain: rain[hour] ?? 0, wind }));

describe('the weather of a day, in a line', () => {
  it.each([
    ['dry', day(), '12 to 17 °C, dry'],
    ['what is at night is not told', day({ 3: 5, 22: 8 }), '12 to 17 °C, dry'],
    ['a stretch', day({ 14: 1, 15: 1.4 }), '12 to 17 °C, rain from 14:00 to 16:00, 2 mm'],
    ['two', day({ 9: 0.3, 15: 0.4 }), '12 to 17 °C, rain from 9:00 to 10:00 and from 15:00 to 16:00, 1 mm'],
    ['many', day({ 8: 1, 10: 1, 12: 1 }), '12 to 17 °C, rain at times, 3 mm'],
    ['drops are none', day({ 12: 0.1 }), '12 to 17 °C, dry'],
    ['wind', day({}, 31), '12 to 17 °C, dry, wind up to 30 km/h'],
    ['frost, all day the same', day({}, 0, () => -3.4), '-3 °C, dry'],
    ['nothing known', [], ''],
  ])('%s', (_, hours, words) => expect(sayWeather(hours)).toBe(words));
});

describe('work outside', () => {
  const thing = (title: string, own: object) => ({ title, tags: [] as string[], location: '', ...own });
  const survey = thing('Count the orchids', { tags: ['Survey'] });
  const walk = thing('Site walk', { location: 'Reed zone, Gate 3' });
  const desk = thing('Write the report', { tags: ['write'], location: 'Gatehouse' });

  it('is what has the tag, or is at the place', () => {
    const found = outsideOn([desk, survey, walk], ['survey', 'gate']);
    expect(found).toEqual({ things: [survey, walk], place: 'Reed zone, Gate 3' });
  });

  it('is none where nothing says so', () => {
    expect(outsideOn([desk, survey, walk], [])).toEqual({ things: [], place: '' });
    expect(outsideOn([survey], ['SURVEY'])).toEqual({ things: [survey], place: '' });
  });
});
