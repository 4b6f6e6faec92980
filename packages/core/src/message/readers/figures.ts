import type { Stretch } from '../parts';

/** An amount of money as it is written, and what it comes to. */
export interface MoneyFact extends Stretch {
  text: string;
  amount: number;
  /** ISO 4217. */
  currency: string;
}

/** A number under which something is filed: an order, an invoice, a permit. */
export interface NumberFact extends Stretch {
  text: string;
  /** The number alone. */
  number: string;
}

const CURRENCIES: [RegExp, string][] = [
  [/^(?:€|eur|euros?)$/i, 'EUR'],
  [/^(?:£|gbp|pounds?)$/i, 'GBP'],
  [/^(?:cad|can\$|c\$)$/i, 'CAD'],
  [/^(?:\$|usd|dollars?)$/i, 'USD'],
  [/^(?:chf|franken|francs?)$/i, 'CHF'],
];
const UNIT = '€|£|C\\$|CAN\\$|\\$|EUR|GBP|CAD|USD|CHF|euros?|pounds?|dollars?|Franken|francs?';
const AMOUNT = "\\d{1,3}(?:[ .,'\u00a0\u202f]\\d{3})+(?:[.,]\\d{1,2})?|\\d{1,7}(?:[.,]\\d{1,2})?";
const MONEY = /* @__PURE__ */ new RegExp(
  `(?<![\\p{L}\\d])(?:(${UNIT})[ \u00a0]?(${AMOUNT})|(${AMOUNT})[ \u00a0]?(${UNIT}))(?![\\p{L}\\d])`,
  'giu',
);

/** `3 940,50`, `1,240.50`, `1.240`: the last mark followed by one or two digits begins the cents. */
function amountOf(written: string): number {
  const cents = /[.,](\d{1,2})$/.exec(written);
  const whole = (cents ? written.slice(0, cents.index) : written).replace(/\D/g, '');
  return Number(whole) + (cents ? Number(`0.${cents[1] ?? '0'}`) : 0);
}

/** Amounts of money in a sentence. */
export function moneyIn(sentence: string): MoneyFact[] {
  if (!/\d/.test(sentence)) return [];
  return [...sentence.matchAll(MONEY)].map((match) => {
    const unit = match[1] ?? match[4] ?? '';
    return {
      text: match[0],
      amount: amountOf(match[2] ?? match[3] ?? ''),
      currency: CURRENCIES.find(([form]) => form.test(unit))?.[1] ?? unit.toUpperCase(),
      start: match.index,
      end: match.index + match[0].length,
    };
  });
}

const FILED =
  /\b(?:invoice|order|purchase order|quote|quotation|offer|delivery note|permit|case|file|reference|ref|booking|ticket|receipt|policy|contract|grant|application|customer|Rechnung|Rechnungsnummer|Bestellung|Bestellnummer|Auftrag|Auftragsnummer|Angebot|Lieferschein|Aktenzeichen|Geschäftszahl|Bescheid|Kundennummer|Vertrag)(?:\s+(?:no|nr|number|id|nummer))?[.:]?\s*[#№]?\s*((?=[\p{L}\d/.-]*\d)[\p{L}\d]+(?:[-/.][\p{L}\d]+)*)/giu;
/** A bare day of the month or a year after such a word is no number of a file. */
const NOT_FILED = /^(?:\d{1,2}|(?:19|20)\d{2}|\d{1,2}(?:st|nd|rd|th)|\d{1,2}\.\d{1,2}(?:\.\d{2,4})?)$/i;

/** Numbers of orders, invoices, permits and the like in a sentence. */
export function numbersIn(sentence: string): NumberFact[] {
  if (!/\d/.test(sentence)) return [];
  return [...sentence.matchAll(FILED)].flatMap((match) => {
    const number = match[1] ?? '';
    if (NOT_FILED.test(number)) return [];
    return [{ text: match[0], number, start: match.index, end: match.index + match[0].length }];
  });
}
