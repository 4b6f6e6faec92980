import { ChevronLeft, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useCheckIns } from '../../data/lookback';
import { KEYS, keyName } from '../../keys';
import { useKeys } from '../../parts/useKeys';

const PARTS = [
  ['log', 'Day log'],
  ['ledger', 'Time ledger'],
  ['questions', 'Questions'],
  ['review', 'Week review'],
] as const;
export type LookBackPart = (typeof PARTS)[number][0];

interface HeadProps {
  part: LookBackPart;
  title: string;
  /** Beside the title. */
  about?: string;
  /** Goes to what is before and after; absent: there is nothing before and after. */
  step?: (by: 1 | -1) => void;
  /** Goes to the present, and what that is called. */
  present?: readonly [name: string, go: () => void];
  children?: ReactNode;
}

/** What is looked back on, and in which way. */
export function LookBackHead({ part, title, about = '', step, present, children }: HeadProps): ReactNode {
  const open = (useCheckIns().data ?? []).filter((one) => one.open !== null).length;
  useKeys({
    ...(step && { [KEYS.lookBack.earlier]: () => step(-1), [KEYS.lookBack.later]: () => step(1) }),
    ...(present && { [KEYS.lookBack.present]: present[1] }),
  });
  return (
    <div className="@container shrink-0 border-b border-rule">
      <div className="flex min-h-11 flex-wrap items-center gap-x-4 px-[18px] py-[3px] max-md:gap-x-2 max-md:px-3">
        <h1 className="font-head text-[20px] font-semibold whitespace-nowrap max-md:text-[17px]">
          <span className="sr-only">Look back, </span>
          {title}
        </h1>
        {about && <span className="whitespace-nowrap text-soft max-md:hidden">{about}</span>}
        {step && present && (
          <div className="flex items-center text-soft">
            <button
              type="button"
              className="grid size-8 place-items-center hover:text-ink"
              aria-label="Earlier"
              title={`Earlier (${keyName(KEYS.lookBack.earlier)})`}
              onClick={() => step(-1)}
            >
              <ChevronLeft size={17} aria-hidden="true" />
            </button>
            <button
              type="button"
              className="min-h-6 px-1 whitespace-nowrap hover:text-ink"
              title={keyName(KEYS.lookBack.present)}
              onClick={present[1]}
            >
              {present[0]}
            </button>
            <button
              type="button"
              className="grid size-8 place-items-center hover:text-ink"
              aria-label="Later"
              title={`Later (${keyName(KEYS.lookBack.later)})`}
              onClick={() => step(1)}
            >
              <ChevronRight size={17} aria-hidden="true" />
            </button>
          </div>
        )}
        <nav aria-label="Ways to look back" className="flex border border-rule max-md:order-last max-md:w-full">
          {PARTS.map(([name, says]) => (
            <Link
              key={name}
              to={`/look-back/${name}`}
              aria-current={name === part ? 'page' : undefined}
              title={keyName(KEYS.lookBack[name])}
              className={`border-l border-rule px-[11px] py-[3px] whitespace-nowrap first:border-l-0 max-md:flex-1 max-md:px-1 max-md:text-center max-md:text-xs ${name === part ? 'bg-ink text-paper' : 'text-soft hover:text-ink'}`}
            >
              {says}
              {name === 'questions' && open > 0 && (
                <span className={`ml-[6px] text-xs font-semibold ${name === part ? '' : 'text-teal'}`}>
                  {open}
                  <span className="sr-only"> to answer</span>
                </span>
              )}
            </Link>
          ))}
        </nav>
        <div className="ml-auto flex flex-wrap items-center gap-x-3">{children}</div>
      </div>
    </div>
  );
}
