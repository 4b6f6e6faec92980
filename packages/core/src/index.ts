export * from './time/zones';
export * from './time/intervals';
export * from './time/working';
export * from './settings/settings';
export * from './time/dateText';
export * from './time/durationText';
export { writersZone } from './time/zoneText';
export * from './text/say';
export * from './text/manner';
export { sayRule } from './text/sayRule';
export { readDay, readDeadline, readLength, readMoment, readRepeat, readWhen } from './tasks/readField';
export type { FieldContext } from './tasks/readField';
export { GROUPINGS, SORTINGS, arrange } from './tasks/arrange';
export type { Arranged, Arranging, Group, Grouping, Sorting } from './tasks/arrange';
export { fits, readFilter } from './tasks/filter';
export type { TaskFilter } from './tasks/filter';
export { placedAfter } from './tasks/order';
export type { Ordered } from './tasks/order';
export { dayOutline, outlineText, whatGives } from './planning/outline';
export type { Giving, OutlineInput, OutlineLine, OutlineTask, OutlineTimed } from './planning/outline';
export { whatFits } from './planning/fitting';
export type { Fit, Fitting, Moment } from './planning/fitting';
export { betterEstimate } from './planning/estimates';
export type { BetterEstimate, Estimated, Took } from './planning/estimates';
export { sayStalled, shareDone, STALLED } from './planning/projects';
export { BIG, SAID_WHY, WHYS, likelyWhy, meantFor, standingOf, weekInReview } from './planning/weekReview';
export type { LeftTask, LeftWhy, ReviewedWeek, Standing } from './planning/weekReview';
export { oneADay, partDecks, rankCandidates, sayNoDay } from './planning/shortlist';
export type { Candidate, DayTask, Decked, Decks, OneADay, OneADayInput, StaysWhy } from './planning/shortlist';
export type { ProjectProgress } from './planning/projects';
export { comingDays, nextRound, repeatDayAfter, repeatDayOf } from './tasks/repeat';
export type { NextRound, Repeating } from './tasks/repeat';
export { isMeant, nudgeText, handOverText } from './tasks/waiting';
export type { Asked, Who } from './tasks/waiting';
export { dayBefore } from './tasks/stayedOpen';
export { tellTask } from './tasks/tellTask';
export type { Telling } from './tasks/tellTask';
export * from './slots/gaps';
export * from './slots/bestSlots';
export * from './planning/load';
export { parseLine, MAX_LINE } from './capture/parseLine';
export { typedDates } from './capture/lineLanguage';
export { sayOutcome, sayParts } from './capture/sayDraft';
export type { Draft, Field, LineContext, Priority, Problem, Span } from './capture/draft';
export { readMessage, MAX_READ, READER_VERSION } from './message/facts';
export { NO_FACTS } from './message/noFacts';
export type { Ask, DateFact, DurationFact, MessageFacts, MessageToRead } from './message/facts';
export { meetingIn, type MeetingSaid } from './message/meeting';
export { placesIn } from './message/readers/places';
export { plainSubject, reasonOf, titleOf } from './message/title';
export { ownWords, quotedFrom, sentencesIn } from './message/parts';
export { deadlineOf, suggest, USUAL_MINUTES } from './suggest/suggest';
export type { Concentration, Suggestion } from './suggest/suggest';
export { DESTINATIONS, DESTINATION_NAMES } from './decide/destinations';
export type { Destination, DestinationKind } from './decide/destinations';
export { Memory } from './suggest/memory';
export type { Guess, Past, Recalled } from './suggest/memory';
export type { Traits } from './suggest/features';
export { neverRepeats, occurrences, MAX_OCCURRENCES, MAX_STEPS } from './calendar/recur';
export {
  boundsOf,
  endAfter,
  isReformed,
  laterBy,
  placeOf,
  placing,
  timesAt,
  timesBetween,
  wholeDays,
  timesOn,
} from './calendar/times';
export type { Bounds, EventTimes, NewPlace, Placed } from './calendar/times';
export { endedBefore } from './calendar/ending';
export { SeriesProblem } from './calendar/command';
export type { SeriesCommand, SeriesEdit, SeriesScope, StoredPart } from './calendar/command';
export { changeSeries } from './calendar/commands';
export { firstDayOf } from './calendar/firstDay';
export { reachOf } from './calendar/tellSeries';
export type { SeriesReach } from './calendar/tellSeries';
export { agendaOf, busyOf, takenBy } from './calendar/agenda';
export * from './calendar/bufferRules';
export { buffersOf, comesFrom } from './calendar/buffers';
export type { Buffer, BufferKind, Buffered } from './calendar/buffers';
export type { Agenda, AgendaBlock, AgendaCalendar, AgendaEvent, Busy, Cause } from './calendar/agenda';
export { readDuration } from './calendar/duration';
export { MOST_ALARMS, alarmAt, isTrigger, readAlarms, sayAlarms } from './reminders/alarm';
export type { Alarm } from './reminders/alarm';
export { remindersIn } from './reminders/reminders';
export type { Reminding, ReminderFound, ReminderRules, ReminderWhy } from './reminders/reminders';
export { isRule, readRule } from './calendar/rule';
export { Steps, walk } from './calendar/walk';
export type { Rule } from './calendar/rule';
export { inSeriesZone, repeats, seriesOccurrences, touches } from './calendar/series';
export type { SeriesPart } from './calendar/series';
export { PosixZone, posixName } from './time/posixZone';
export { ListedZone, listedName, offsetAt } from './time/listedZone';
export type { ClockChange } from './time/listedZone';
export type { Occurrence, Recurring } from './calendar/recur';
export { COUNTERS, afterStep, condensed, same, stepBetween, stepFits, stepsBack } from './journal/steps';
export type { Content, Step } from './journal/steps';
export { merge, seenThere } from './merge/merge';
export type { Conflict, Fields, Merged, Value } from './merge/merge';
export { sayEventChanges, sayWhen, tellEvent } from './calendar/changes';
export type { Noticed } from './calendar/changes';
export { FIND_KINDS, ftsQuery, readFind } from './find/readFind';
export type { Find, FindKind } from './find/readFind';
export { causesOf, isAtRiskItself } from './planning/causes';
export { isAtRisk, safeStarts } from './planning/safeStart';
export type { Demand, SafeStart } from './planning/safeStart';
export { mendsOf } from './planning/mends';
export type { Mends } from './planning/mends';
export { openSlots } from './planning/openSlots';
export type { OpenSlotsInput } from './planning/openSlots';
export { costOfYes } from './planning/costOfYes';
export type { CostOfYes, Endangered, Move, OwnTime, YesInput } from './planning/costOfYes';
export * from './planning/plan';
export { FIRST_PLANNING, changesOf, deadlineAt, problemOf } from './planning/stretch';
export { propose } from './planning/propose';
export type { Proposed } from './planning/propose';
export type { OpenTask, PlanChanges, PlanningRules, SetAside, Stretch } from './planning/stretch';
export { byDay, correctedTo, minutesSpent, ranFor, setBy } from './doing/stretches';
export type { ClockReading, Corrections, SpentStretch } from './doing/stretches';
export { firstTurn, goOn, turnsUntil } from './doing/headsDown';
export type { HeadsDownRules, Phase, Turn } from './doing/headsDown';
export { pushRest, runningAt } from './doing/running';
export type { GivesWay, Pushed, Running, Timed } from './doing/running';
export { sayNext, timedOf } from './doing/timed';
export type { DayEntry, TimedEntry } from './doing/timed';
export { lightHours, outsideOn, sayWeather } from './doing/weather';
export type { DoneSomewhere, HourOfWeather } from './doing/weather';
export { looseEndsOf } from './doing/looseEnds';
export type { LooseEnd, LooseEndKind } from './doing/looseEnds';
export { wasMissed } from './reminders/missed';
export { GRACE, SiteError, heldOf, isOnSite, quietAfter, quietAt, readSite, readSites, tidySites } from './doing/heldSites';
export type { Grace, Quiet, QuietInput } from './doing/heldSites';
export { covering, presenceAt, presenceTurns } from './doing/presence';
export type { Presence, PresenceInput, PresenceKind } from './doing/presence';
export { ledgerDays } from './ledger/counting';
export type { LedgerDays, LedgerEach } from './ledger/counting';
export { LEDGER_BY, MEASURES, eachCount, ledgerOf, offBy } from './ledger/ledger';
export type {
  Ledger,
  LedgerBy,
  LedgerInput,
  LedgerItem,
  LedgerRow,
  LedgerTime,
  LedgerTook,
  LedgerTotal,
  Measure,
  Measured,
  OffBy,
} from './ledger/ledger';
export { dayLogMarkdown, inLogOrder, readLogLine, tellRun, tellQuiet, tellSpentOn, runsOf } from './ledger/dayLog';
export type { LogDecision, LogEntry, LogKind, LogPart, LogThing } from './ledger/dayLog';
export * from './checkIns/questions';
export { askedAt, lastAsked, nextAsked } from './checkIns/asked';
export type { Asks } from './checkIns/asked';
export { sayTrend, trendOf } from './checkIns/trends';
export type { Answered, Trend } from './checkIns/trends';
