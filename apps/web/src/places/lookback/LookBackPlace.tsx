import type { Me } from '@corvun/contract';
import { dayOf, isDay } from '@corvun/core';
import type { ReactNode } from 'react';
import { Navigate, useNavigate, useParams } from 'react-router';
import { KEYS } from '../../keys';
import { useKeys } from '../../parts/useKeys';
import { useNow } from '../../parts/useNow';
import { DayLog } from './DayLog';
import { Ledger } from './Ledger';
import { Questions } from './Questions';
import { Review } from './Review';

/** Closing the day and the week; where time went; the day log. */
export function LookBackPlace({ me }: { me: Me }): ReactNode {
  const navigate = useNavigate();
  const { part = 'log', at } = useParams();
  const today = dayOf(useNow(), me.zone);
  const go = (to: string) => () => void navigate(`/look-back/${to}`);
  useKeys({
    [KEYS.lookBack.log]: go('log'),
    [KEYS.lookBack.ledger]: go('ledger'),
    [KEYS.lookBack.questions]: go('questions'),
    [KEYS.lookBack.review]: go('review'),
  });
  switch (part) {
    case 'log':
      return at && !isDay(at) ? <Navigate to="/look-back/log" replace /> : <DayLog me={me} today={today} day={at ?? today} />;
    case 'ledger':
      return <Ledger me={me} today={today} at={at} />;
    case 'questions':
      return <Questions me={me} today={today} id={at} />;
    case 'review':
      return <Review me={me} today={today} />;
    default:
      return <Navigate to="/look-back" replace />;
  }
}
