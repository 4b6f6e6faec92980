/** Forms in which a sentence asks something of its reader; the list is the table of contents. */
const ENGLISH: RegExp[] = [
  /^(?:so |and |also,? |but |then |finally,? |lastly,? |second(?:ly)?,? |first(?:ly)?,? )*(?:please|kindly)\b/i,
  /\b(?:could|can|would|will|might) (?:you|one of you|someone|somebody|anyone|anybody)\b(?! (?:imagine|believe|find (?:the|our|all)|see (?:from|in|that)|always|still reach|reach us))/i,
  /\bplease (?!note\b|find\b|be aware\b|don't hesitate\b|do not hesitate\b|feel free\b|ignore\b)\w+/i,
  /\b(?:i|we)(?:'d| would| should)? (?:need|require|want) (?:you|your|the|a|an|to have|to know|it|this|that|these|those|from you)\b/i,
  /\b(?:i|we) (?:still )?(?:need|require)\b.*\b(?:from you|by|until|before|no later)\b/i,
  /\b(?:i|we) (?:ask|kindly ask|must ask|have to ask) (?:you|that)\b/i,
  /\b(?:i|we)(?:'d| would) (?:like|love|appreciate|be glad|be grateful|be happy)\b.*\b(?:you|your)\b/i,
  /\byou (?:need|have|are asked|must|should|are required|will need|are to|still owe|'ll need)(?: to)?\b(?! (?:no|nothing|any questions|a question|received))/i,
  /\b(?:do|are|did|have|will|is|has) (?:you|your)\b.*\?$/i,
  /\b(?:is it|would it be) (?:ok|okay|possible|all right|fine|acceptable)\b.*\?$/i,
  /\b(?:who|what|when|where|which|how|why)\b.*\b(?:you|your|we|us|the trust)\b.*\?$/i,
  /\b(?:let (?:me|us) know|get back to (?:me|us)|remember to|don't forget to|make sure (?:that |to )?|be so kind)\b/i,
  /\b(?:any chance|does that work|does this work|(?:can|could|shall|should) we|may (?:i|we) (?:have|ask|get))\b.*\?$/i,
  /\b(?:is|are) (?:due|payable) (?:by|on|within)\b|\bmust (?:be (?:with us|paid|sent|returned|signed|filed)|reach us|arrive)\b/i,
  /\b(?:awaiting|waiting for|looking forward to) your (?:reply|answer|comments|decision|confirmation|feedback)\b/i,
];

const GERMAN: RegExp[] = [
  /^(?:und |auch |dann |außerdem )?bitte\b/i,
  /\bbitte\b(?! (?:beachten sie, dass|wenden))/i,
  /\b(?:könnten|können|würden|kannst|könntest|würdest|könnt|könntet) (?:sie|du|ihr)\b/i,
  /\b(?:wir|ich) (?:brauchen?|benötigen?|bitten?) (?:sie|dich|euch|von|noch|den|die|das|um|bis|ihre|deine)\b/i,
  /\b(?:könnten|können|wollen) wir\b.*\?$/i,
  /\b(?:ich|wir) (?:brauche|brauchen|benötigen?)\b.*\bbis\b/i,
  /\b(?:sie|du) (?:müssen|musst|sollten|solltest)\b/i,
  /\b(?:haben|hast|sind|bist|wissen|weißt|ist|gibt|passt|geht) (?:sie|du|es|ihnen|dir|das)\b.*\?$/i,
  /\b(?:wer|was|wann|wo|welche[rsn]?|wie|warum)\b.*\?$/i,
  /\b(?:geben sie (?:mir|uns)|gib (?:mir|uns)|melden sie sich|melde dich|denk(?:en sie|t)? (?:bitte )?daran)\b/i,
  /\b(?:wäre[n]?|wär) (?:ich|wir|es)\b.*\b(?:dankbar|froh|schön|nett|möglich)\b/i,
];

/** Sentences that read like requests, but want nothing. */
const NOT_ASKS: RegExp[] = [
  /^please (?:find|note that|be aware|ignore|do not reply|don't reply|see (?:below|attached))\b/i,
  /^(?:how are you|how do you do|what's up|did you know|wie geht es|are you (?:ready|looking) (?:for|to))\b/i,
  /\b(?:if you have any (?:further )?questions|if you (?:no longer )?wish|should you have|do(?:n't| not) hesitate|feel free|if you received this|bei (?:fragen|rückfragen)|you can (?:always )?reach|nothing (?:you need )?to do|no (?:need|reply|answer) (?:to|is|needed)|no action)\b/i,
  /\b(?:you asked|as you (?:asked|requested)|you have asked|wie gewünscht)\b/i,
  /\bplease (?:accept|excuse|forgive)\b|\bthank you for\b(?!.*\b(?:please|could you)\b)/i,
  /\bif you (?:must|have to|need to)\b/i,
  /^(?:save|get|buy|shop|discover|order now|read more|jetzt)\b/i,
];

const WITHIN = 420;

/** Orders that follow a name and a comma; "Maren, looks good" is none. */
const ORDER =
  /^(?:ask|bring|book|buy|call|check|confirm|fetch|find|get|look|make|move|order|print|put|read|send|sign|take|tell|write|ruf|schick|bring|bestell|schau|schreib)\b/i;

/** Whether a sentence is addressed to one of the names and goes on like an order: `Maren: call the school`. */
function ordersByName(text: string, names: readonly string[]): boolean {
  const lower = text.toLowerCase();
  return names.some((name) => {
    const start = name.toLowerCase();
    if (lower.startsWith(`${start}: `) || lower.startsWith(`@${start} `)) return true;
    return lower.startsWith(`${start}, `) && ORDER.test(text.slice(start.length + 2));
  });
}

/** Whether a sentence asks something of the reader. Very long ones are judged by their beginning. */
export function asksReader(sentence: string, names: readonly string[] = []): boolean {
  const text = sentence.replace(/\s+/g, ' ').slice(0, WITHIN);
  if (NOT_ASKS.some((pattern) => pattern.test(text))) return false;
  return (
    ordersByName(text, names) || ENGLISH.some((pattern) => pattern.test(text)) || GERMAN.some((pattern) => pattern.test(text))
  );
}
