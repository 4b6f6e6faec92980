import { count } from '@corvun/core';
import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { useCheckIns } from '../../data/lookback';
import { KEYS, keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';

/** Questions of one's own that wait for an answer. */
export function AsksLine(): ReactNode {
  const navigate = useNavigate();
  const asking = (useCheckIns().data ?? []).filter(({ open }) => open !== null);
  const [first] = asking;
  const to = `/look-back/questions/${first?.id ?? ''}`;
  useKeys(first ? { [KEYS.now.questions]: () => void navigate(to) } : {});
  return (
    first && (
      <p className="mt-2 text-xs text-soft">
        <Link to={to} className="inline-flex min-h-6 items-center gap-[6px] underline underline-offset-2 hover:text-teal">
          <Key>{keyName(KEYS.now.questions)}</Key> {asking.map(({ name }) => `“${name}”`).join(' and ')}
          {asking.length === 1 ? ` asks ${count(first.questions.length, 'question')}` : ' ask'}
        </Link>
      </p>
    )
  );
}
