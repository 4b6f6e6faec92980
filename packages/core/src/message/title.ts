import type { MessageFacts } from './facts';

const REPLY_MARKS = /^(?:\s*(?:re|aw|fw|fwd|wg|antw)(?:\[\d+\])?\s*:\s*)+/i;
const LEADS: RegExp[] = [
  /^@[\w.-]+[,:]?\s+(?=\S)/,
  /^(?:hi|hello|dear|hallo|liebe[r]?)\b[^,.!?]{0,40},\s*/i,
  /^(?:so|and|also|but|then|finally|lastly|first(?:ly)?|second(?:ly)?|und|auch|außerdem|one more thing|two things|by the way)\b[,:]?\s+/i,
  /^.{0,80}?(?:,|—|–|-|:)\s*(?=(?:could|can|would|will) you\b|please\s+\p{L}|bitte\s+\p{L})/iu,
  /^.{0,80}?,\s*(?:so\s+)?(?=(?:can|could|shall|should) we\b)/i,
  /^to \w+ (?:it|them|this|that),?\s+(?=you\b)/i,
  /^(?:@?[A-Z][a-z]+): /,
  /^(?:could|can|would|will|might) (?:you|one of you|(?:someone|somebody)(?: from [\w ]{2,20}?(?= (?:have|take|look|come|send|call)))?)(?: (?:please|kindly|also|perhaps|maybe|possibly))*\s+/i,
  /^(?:please|kindly)(?: (?:also|do|kindly))*\s+/i,
  /^(?:i|we) (?:need|would need|want|would like|'d like|ask|kindly ask|must ask|have to ask) you to\s+/i,
  /^(?:it would be (?:great|good|helpful) if you could|would you be so kind (?:as )?to|be so kind (?:as )?to|do you mind|would you mind)\s+/i,
  /^you (?:need|have|are asked|are required|will need|still have) to\s+|^you (?:must|should)\s+/i,
  /^(?:remember|don't forget|make sure|be sure) (?:that you |to )/i,
  /^(?:bitte)(?: (?:auch|noch))*\s+/i,
  /^(?:could|would|can) (?:also )?please\s+/i,
];
const NEED =
  /^(?:i|we)(?: would|'d)?(?: also)? (?:need|require) (?:from you )?((?:the|your|an?|one|two|three|half|some|more)\b.*)$/i;
const GERMAN_ASK =
  /^(?:könnten|können|würden|kannst|könntest|würdest) (?:sie|du|ihr)(?: (?:bitte|uns|mir|auch|noch))*\s+(.*?)\s+(\p{L}+en)$/iu;
const GERMAN_INDIRECT =
  /^(?:könnten|können|würden|kannst|könntest|würdest) (?:sie|du|ihr)(?: (?:bitte|uns|mir|auch|noch))*\s+(\p{L}+en,\s+.*)$/iu;
const GERMAN_POLITE = /^(?!könnten|können|würden|haben|sind|möchten)(\p{L}+en) sie(?: (?:uns|mir|bitte|auch|noch))*\s+(.*)$/iu;
/** The part of a German verb that stands apart: "rufen Sie mich an" is "mich anrufen". */
const SEPARABLE = / (ab|an|auf|aus|bei|durch|ein|fest|her|hin|mit|nach|statt|teil|um|vor|weg|weiter|zu|zurück) (\p{L}+en)$/u;
/** "mich wegen der Weide anrufen": who is called is the writer anyway. */
const TO_ME = /^(?:mich|mir|uns)\s+(wegen .*?)\s+(\p{L}+en)$/iu;
const DATE_LEAD =
  /\s+(?:by|before|until|till|no later than|on|at|due|from|bis(?: spätestens)?(?: zum)?|am|um|vor|within|not later than)?\s*(?:the|dem|den)?\s*$/i;
const FOR_ME =
  /^(\p{L}+)\s+(?:us|me)\s+(?=(?:the|a|an|your|our|all|who|what|when|how|whether|which|if|about|know|one|two|some|any)\b)/iu;
/** Says only "it": what it is stands in the subject. */
const POINTS_BACK = /^\w+ (?:it|them|this|that|these|those)(?: \w+)?$/i;
const QUESTION =
  /^(?:who|what|when|where|which|how|why|is|are|do|does|did|(?:have|has|will) (?:you|they|we|the|it)|would|wer|was|wann|wo|wie|haben|ist|gibt|passt|shall|should|may|any chance)\b/i;
const MAX_TITLE = 90;

/** A subject without reply and forward marks. */
export function plainSubject(subject: string): string {
  return subject.replace(REPLY_MARKS, '').replace(/\s+/g, ' ').trim();
}

/** What says why, or what happens otherwise: it is no part of the doing. */
const REASON =
  /,?\s+(?:so that|in order that|because)\b.*$|(?:,|\s[–—-])\s*(?:so (?:i|we|they|he|she|it|the|that)|as (?:i|we|they|he|she|it|the|our|your)|since|otherwise|or else|damit|weil|denn|sodass|so dass|da (?:wir|ich|sie|es|er|der|die|das)|sonst|ansonsten)(?=\s).*$/is;

/** An ask, and the part of it that says why. */
function parted(said: string): [string, string] {
  const reason = REASON.exec(said);
  if (!reason || reason.index < 12) return [said, ''];
  const why = reason[0]
    .replace(/^[\s,–—-]+/, '')
    .replace(/\s+/g, ' ')
    .replace(/[\s,;:?]+$/, '')
    .trim();
  return [said.slice(0, reason.index), `${why.charAt(0).toUpperCase()}${why.slice(1)}${/[.!]$/.test(why) ? '' : '.'}`];
}

/**
 * What an ask says of why it is to be done, as a sentence for the notes; empty where it says nothing of it.
 * @param title the title that was made of it
 */
export function reasonOf(text: string, facts: MessageFacts, subject: string, title: string): string {
  const at = facts.asks.findIndex((_, ask) => titleOf(text, facts, subject, ask) === title);
  const ask = facts.asks[at];
  return ask ? parted(text.slice(ask.start, ask.end))[1] : '';
}

/**
 * A title that says what to do: the first ask, verb first, without its date; else the bare subject.
 * @param ask which of the asks, from 0
 */
export function titleOf(text: string, facts: MessageFacts, subject: string, ask = 0): string {
  const chosen = facts.asks[ask];
  const title = chosen ? titleFromAsk(text, chosen.start, chosen.end, facts) : '';
  const plain = plainSubject(subject);
  if (plain && title.length >= 4 && (POINTS_BACK.test(title) || !title.includes(' '))) return shorten(`${title} – ${plain}`);
  return shorten(title.length >= 8 ? title : plain || firstLine(text) || 'Message without a subject');
}

const POLITE = /,?\s*(?:please|thanks|thank you|bitte)[\s?.!,;:]*$/i;

/** An ask without its dates, and without what led to them. */
function withoutDates(text: string, start: number, last: number, facts: MessageFacts): string {
  const end = start + text.slice(start, last).replace(POLITE, '').length;
  let said = text.slice(start, end);
  let cut = false;
  for (const date of facts.dates.filter((one) => one.start >= start && one.end <= end).reverse()) {
    const atEnd = /^[\s?.!,;:]*$/.test(text.slice(date.end, end));
    if (date.role !== 'deadline' && !atEnd) continue;
    const before = said.slice(0, date.start - start).replace(/\n/g, ' ');
    said = before.replace(DATE_LEAD, '') + said.slice(date.end - start);
    cut = true;
  }
  said = said.replace(/\s+/g, ' ').replace(/;.*$/, '');
  said = said.replace(/[\s?.!,;:]+$/, '').trim();
  return cut ? said.replace(/\s(?:for|on|at|by|of|until|before|from)$/i, '') : said;
}

function titleFromAsk(text: string, start: number, end: number, facts: MessageFacts): string {
  let [said] = parted(withoutDates(text, start, end, facts));
  for (const lead of LEADS) said = said.replace(lead, '');
  const need = NEED.exec(said);
  if (need) said = `send ${need[1] ?? ''}`.replace(/ from you$/i, '');
  const indirect = GERMAN_INDIRECT.exec(said);
  const german = indirect ? null : GERMAN_ASK.exec(said);
  if (indirect) said = indirect[1] ?? said;
  if (german) said = `${german[1] ?? ''} ${german[2] ?? ''}`;
  const polite = GERMAN_POLITE.exec(said);
  if (polite) said = `${polite[2] ?? ''} ${polite[1]?.toLowerCase() ?? ''}`.replace(SEPARABLE, ' $1$2');
  said = said.replace(TO_ME, (_, about: string, verb: string) => `${verb} ${about}`).replace(/^(?:mich|mir|uns|euch)\s+/i, '');
  said = said.replace(/^(?:don't|do not) forget\s+/i, 'remember ');
  said = said.replace(/^(?:let (?:me|us) know|tell (?:me|us)|get back to (?:me|us) (?:with|about|on))\s+/i, 'say ');
  said = said
    .replace(FOR_ME, '$1 ')
    .replace(/,?\s*(?:please|thanks|thank you|bitte)$/i, '')
    .replace(/[\s,;:–-]+$/, '');
  if (QUESTION.test(said)) said = `answer: ${/^I\b/.test(said) ? said : said.charAt(0).toLowerCase() + said.slice(1)}`;
  return said.charAt(0).toUpperCase() + said.slice(1);
}

function firstLine(text: string): string {
  return (
    text
      .split('\n')
      .find((line) => /\p{L}{2}/u.test(line))
      ?.trim() ?? ''
  );
}

function shorten(title: string): string {
  if (title.length <= MAX_TITLE) return title;
  const cut = title.slice(0, MAX_TITLE);
  const clause = Math.max(
    cut.lastIndexOf(', '),
    cut.lastIndexOf(' so that '),
    cut.lastIndexOf(' because '),
    cut.lastIndexOf(' – '),
  );
  const end = clause > MAX_TITLE / 2 ? clause : cut.lastIndexOf(' ');
  return cut.slice(0, end > 20 ? end : MAX_TITLE).replace(/[\s,;:–-]+$/, '');
}
