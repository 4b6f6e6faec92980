/** Forms in which a sentence asks something of its reader; the list is the table of contents. */
const ENGLISH: RegExp[] = [
  /^(?:so |and |also,? |but |then |finally,? |lastly,? |second(?:ly)?,? |first(?:ly)?,? )*(?:please|kindly)\b/i,
  /\b(?:could|can|would|will|might) (?:you|one of you|someone|somebody|anyone|anybody)\b(?! (?:imagine|believe|find (?:the|our|all)|see (?:from|in|that)|always|still reach|reach us))/i,
  /\bplease (?!note\b|find\b(?! out\b)|be aware\b|don't hesitate\b|do not hesitate\b|feel free\b|ignore\b)\w+/i,
  /\b(?:i|we)(?:'d| would| should)? (?:need|require|want) (?:you|your|the|a|an|to have|to know|it|this|that|these|those|from you)\b/i,
  /\b(?:i|we) (?:still )?(?:need|require)\b.*\b(?:from you|by|until|before|no later)\b/i,
  /\b(?:i|we) (?:ask|kindly ask|must ask|have to ask) (?:you|that)\b/i,
  /\b(?:i|we)(?:'d| would) (?:like|love|appreciate|be glad|be grateful|be happy)\b(?! to (?:lend|help|give|show|send|offer|invite|thank|come|bring) ).*\b(?:you|your)\b/i,
  /^reminder\b|\bjust (?:say|tell|let|write|ring|call|send|reply)\b|\bsave the date\b|\bunless (?:we|i) hear\b/i,
  /\b(?:has|have|must|needs?|ought) (?:to )?be (?:\p{L}+ed|sent|paid|handed in|done|made|given|put|brought)\b.*\b(?:by|until|before|on|within|no later)\b/iu,
  /\b(?:still )?(?:have|has)(?: not|n't)(?: yet)? (?:received|heard|had|seen)\b(?!.*\bnobody\b)|\byou promised (?:me|us|to)\b|\b(?:it is|it's) (?:high )?time (?:to|that)\b/i,
  /\bwould help (?:us|me)\b|\bshould be (?:glad|grateful|obliged)\b/i,
  /\b(?:it|that) would (?:help|be (?:good|great|nice|kind|helpful|useful))\b/i,
  /^(?:someone|somebody) (?:has to|must|should|needs to)\b/i,
  /\b(?:asks?|is asking|are asking) (?:you|whether|if|for)\b/i,
  /\byour (?:\p{L}+ ){1,3}(?:is|are) (?:still )?(?:missing|outstanding|overdue)\b/iu,
  /\byou(?:'ll| will)? (?:need|have|are asked|are required|are) to\b/i,
  /\byou(?:'ll| will)? need (?:a|an|the|your|more)\b|\byou (?:must|should|still owe)\b(?! (?:not|no|nothing|see|know|receive|have received)\b)/i,
  /\byou can (?:collect|pick up|fetch)\b|\bi wonder (?:whether|if) you\b/i,
  /\b(?:the|our) \p{L}+ (?:needs?|wants?|requires?) (?:the|your)\b|\b(?:i|we)\b.*(?<!not )\bneed (?:a|an|the|your|(?:\w+ )?more)\b/iu,
  /\b(?:is|are) to be \p{L}+(?:ed|en|t|de)\b.*\b(?:by|until|before|within)\b/iu,
  /\b(?:must|should|has to|have to) (?:be (?:back )?with|reach|get (?:back )?to|come (?:back )?to) (?:us|me)\b/i,
  /\b(?:hop(?:e|ed|ing)|wonder(?:ed|ing)?|perhaps|maybe|glad|grateful|great|good|kind|nice|lovely|helpful|appreciate it|way|chance|possible) (?:if |that |whether |for )?you (?:could|can|would|might)\b/i,
  /\bif you (?:could|would)? ?(?:give|send|tell|lend|bring|show|let) (?:me|us)\b|\b(?:tell|write to|answer|inform) (?:me|us)\b.*\b(?:by|until|before)\b|\bwe are (?:still )?missing your\b/i,
  /\bwe should\b.*\btogether\b|\b(?:i|we)(?:'d| would) like to (?:come|visit|see|meet|bring|invite|book|have|hear|order|move)\b/i,
  /^(?:please )?(?:don't|do not|never) (?!worry|hesitate|bother|wait|you\b|be\b|we\b|i\b|they\b)\p{L}+/iu,
  /, (?:please )?(?:do not|don't) \w+/i,
  /\bthe (?:applicant|tenant|owner|holder|member|customer|client|recipient|organi[sz]ation|association|society|charity|company|office|school|practice|department|team|board)s? (?:has to|have to|needs? to|must|(?:is|are) to|(?:is|are) asked to|should)\b/i,
  /\bif (?:you|the \p{L}+)\b.*\b(?:has to|have to|must|needs? to)\b/iu,
  /\b(?:wants?|needs?|would like|asks?) to know\b|\b(?:is|are|was) asking (?:for|whether|if|about)\b/i,
  /\b(?:let (?:me|us) know|get back to (?:me|us)|remember to|don't forget to|make sure (?:that |to )?|be so kind)\b/i,
  /\b(?:is|are) (?:due|payable)\b(?! to\b|\s*[.!])|\bmust (?:be (?:with us|paid|sent|returned|signed|filed)|reach us|arrive)\b/i,
  /^(?:please )?do (?!(?:you|we|i|they|not|it|the|any)\b)\p{L}+/iu,
  /\b(?:i am|i'm|i’m|we are|we're|we’re) (?:still )?waiting for your?\b|\b(?:it is|it's) (?:important|essential|vital|urgent) that\b/i,
  /\b(?:await(?:ing)?|wait(?:ing)? for|look(?:ing)? forward to) your (?:reply|answer|comments|decision|confirmation|feedback|response|proposal|signature)\b/i,
];

const GERMAN: RegExp[] = [
  /^(?:und |auch |dann |außerdem )?bitte\b/i,
  /\bbitte\b(?! (?:beachten sie, dass|wenden))/i,
  /\b(?:könnten|können|würden|kannst|könntest|würdest|könnt|könntet) (?:sie|du|ihr)\b/i,
  /\b(?:wir|ich) (?:brauchen?|benötigen?|bitten?) (?:sie|dich|euch|von|noch|den|die|das|um|bis|ihre|deine)\b/i,
  /\b(?:ich|wir) (?:brauche|brauchen|benötigen?)\b.*\bbis\b/i,
  /\b(?:sie|du) (?:müssen|musst|sollten|solltest)\b(?! (?:sich |dazu |dafür )?(?:noch |weiter |gar |jetzt )?(?:nichts|nicht|keine))/i,
  /\b(?:geben sie (?:mir|uns)|gib (?:mir|uns)|melden sie sich|melde dich|denk(?:en sie|t)? (?:bitte )?daran)\b/i,
  /\b(?:ist|sind)\b.*\b(?:bis|spätestens)\b.*\b(?:zu \p{L}+en|\p{L}+zu\p{L}+en)\b/iu,
  /\b(?:ist|sind)\b.*\b(?:mit|ein|vor|ab|nach|zurück|bei|auf|aus)zu\p{L}+en\b/iu,
  /\bbitten (?:\p{L}+ )?um\b(?! (?:ihr |euer |etwas )?(?:verständnis|entschuldigung|nachsicht|geduld))/iu,
  /\b(?:solltest|müsstest|musst|könntest|kannst|magst) du\b/i,
  /\b(?:vergiss|vergesst|vergessen sie) (?:bitte )?nicht\b/i,
  /\b(?:wenn|ob) (?:sie|du|ihr)\b.*\b(?:könnten|könntest|könntet|würden|würdest|möchten|möchtest)\b/i,
  /\b(?:wäre[n]?|wär) (?:ich|wir|es)\b.*\b(?:dankbar|froh|schön|nett|möglich)\b/i,
];

/** Sentences that read like requests, but want nothing. */
const NOT_ASKS: RegExp[] = [
  /^please (?:find(?! out\b)|note that|be aware|ignore|do not reply|don't reply|see (?:below|attached))\b/i,
  /^(?:how are you|how do you do|what's up|did you know|wie geht es|are you (?:ready|looking) (?:for|to))\b/i,
  /\b(?:if you have any (?:further )?questions|if you (?:no longer )?wish|should you have|do(?:n't| not) hesitate|feel free|if you received this|bei (?:fragen|rückfragen)|you can (?:always )?reach|nothing (?:you need )?to do|no (?:need|reply|answer) (?:to|is|needed)|no action)\b/i,
  /\b(?:you asked|as you (?:asked|requested)|you have asked|wie gewünscht)\b/i,
  /\bplease (?:accept|excuse|forgive)\b|\bthank you for\b(?!.*\b(?:please|could you)\b)/i,
  /\bif you (?:must|have to|need to)\b/i,
  /\b(?:brauche|brauchen) (?:sie|es|ihn|das|die) (?:für|zum|zur|nur)\b/i,
  /^(?:in (?:urgent|pressing|dringenden) |take care\s*[.!,]?(?:\s*\p{L}+)?[.!]?$|see you\b|look(?:ing)? forward\b|have a (?:good|nice|lovely)|call me [A-Z]\w+[.!]?$|keep well\b|enjoy\b|let's hope\b)/iu,
  /\b(?:ask for|bitten um) (?:your|ihr|euer|etwas) (?:understanding|patience|verständnis|nachsicht|geduld)\b|^correct me if\b/i,
  /^(?:who knows|why not|what a|how (?:nice|lovely|kind|good|funny))\b/i,
  /\b(?:\p{Lu}\p{L}+|he|she|they|we) (?:takes?|will take) care of (?:it|that|this|everything)\b/u,
  /^(?:save|get|buy|shop|discover|order now|read more|jetzt)\b/i,
];

/** In what one person writes to another, a question is one to the reader. */
const QUESTION = /\p{L}.*\?["”’)]*$/u;

const WITHIN = 420;

/** Orders: at the beginning of a sentence, or after a name and a comma; "Maren, looks good" is none. */
const ORDER =
  /^(?:(?:and|so|also|then|just|but|now|und|auch|dann|nur|also)[, ]+|(?:to|um) [^,]{3,60}, |(?:if|when|whenever|once|as soon as) [^,]{3,80}, )*(?:(?:don't|do not) forget|add|answer|apply|approve|arrange|ask|attach|bring|book|buy|call|cancel|check|choose|clean|close|collect|come (?:by|over|to)|complete|confirm|contact|correct|consider|count|decide|fetch|fill (?:in|out)|find out|forward|give|have a look|hand|include|inform|invite|keep|lock|leave|let|look (?:at|over|into|up|through)|make (?:the|a|an|your|it|sure)|mark|measure|mend|move|order|paint|pass|pay|phone|pick|plan|prepare|print|put|quote|read|register|remember|remind|renew|repair|replace|reply|return|review|ring|send|show|sign|state|stop|submit|take|talk to|tell|think (?:about|over)|try|update|wait|warn|write|frag|gib|hol|komm|leg|lies|meld|nimm|prüfe?|ruf|sag|schau|schicke?|schreibe?|bestelle?|bring|denke?|druck|zahl|überweise?|unterschreibe?)\b(?! (?:\d|care|place|part in|rise|way|to be|of|is|are|was|up the))/i;

/** Verbs that are as often the name of a thing: orders where what they are done to follows. */
const ORDER_OF =
  /^(?:(?:and|so|also|then|just|but|now)[, ]+|(?:if|when|whenever|once|as soon as) [^,]{3,80}, )*(?:have|report|upload|hang|water|test|scan|copy|deliver|empty|fix|load|post|mail|share|sort|store|sweep|swap|wash|wipe|turn|switch|set) (?:the|a|an|your|my|our|it|them|this|that|these|those|all|each|both|us|me|him|her)\b(?! (?:good|nice|lovely|great|look forward))/i;

/** What is told to someone by name and asks nothing. */
const STATEMENT =
  /^(?:thanks?|thank you|the|a|an|i|it|this|that|we|he|she|they|there|great|good|danke|das|die|der|es|ich|wir)\b/i;

/** Whether a sentence is addressed to one of the names and goes on like an order: `Maren: call the school`. */
function ordersByName(text: string, names: readonly string[]): boolean {
  const lower = text.toLowerCase();
  return names.some((name) => {
    const start = name.toLowerCase();
    if (lower.startsWith(`${start}: `) && !STATEMENT.test(text.slice(start.length + 2))) return true;
    const called = [`${start}, `, `@${start} `, `@${start}, `].find((call) => lower.startsWith(call));
    return called !== undefined && ORDER.test(text.slice(called.length));
  });
}

/** Whether a sentence asks something of the reader. Very long ones are judged by their beginning. */
export function asksReader(sentence: string, names: readonly string[] = []): boolean {
  const text = sentence.replace(/\s+/g, ' ').slice(0, WITHIN);
  const asks =
    QUESTION.test(text) ||
    ORDER.test(text) ||
    ORDER_OF.test(text) ||
    ordersByName(text, names) ||
    ENGLISH.some((pattern) => pattern.test(text)) ||
    GERMAN.some((pattern) => pattern.test(text));
  // Most sentences ask nothing, and need no look at what only seems to.
  return asks && !NOT_ASKS.some((pattern) => pattern.test(text));
}
