import type { Me } from '@corvun/contract';
import { useEffect, useRef, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { Beside } from './Beside';
import { Calendars } from './Calendars';
import { KeyChoice } from './KeyChoice';
import { Looks } from './Looks';
import { Kept, Mail } from './MailAndData';
import { DaySettings } from './DaySettings';
import { Planning } from './Planning';
import { Reminding } from './Reminding';
import { PARTS, SETTINGS } from './sections';
import { SignedIn } from './SignedIn';
import { WorkingTime } from './WorkingTime';
import { You } from './You';

/** What is left free above a setting that is gone to, in pixels. */
const MARGIN = 20;

/** Everything that is chosen once: each setting with a word on what it changes, and an address of its own. */
export function SettingsPlace({ me }: { me: Me }): ReactNode {
  const { hash } = useLocation();
  const scroller = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const wanted = hash ? document.getElementById(`${hash.slice(1)}-name`) : null;
    // Only the page itself: the browser would scroll the frame around it, too.
    if (wanted && scroller.current)
      scroller.current.scrollTop += wanted.getBoundingClientRect().top - scroller.current.getBoundingClientRect().top - MARGIN;
    wanted?.focus({ preventScroll: true });
  }, [hash]);
  const views: Record<(typeof PARTS)[number], ReactNode> = {
    You: <You me={me} />,
    'Working time': <WorkingTime me={me} />,
    'Beside events': <Beside me={me} />,
    'How days are planned': <Planning me={me} />,
    'Your day': <DaySettings me={me} />,
    'What reminds you': <Reminding me={me} />,
    'How it looks': <Looks me={me} />,
    'Calendars and lists': <Calendars />,
    Keyboard: <KeyChoice me={me} />,
    Mail: <Mail me={me} />,
    'Signed in': <SignedIn me={me} />,
    'What is kept': <Kept />,
  };
  return (
    <div className="flex h-full">
      <nav
        aria-label="Settings"
        className="w-[236px] shrink-0 overflow-y-auto border-r border-rule px-6 pt-6 pb-10 max-md:hidden"
      >
        {PARTS.map((part) => (
          <div key={part} className="mb-3">
            <p className="text-xs text-soft">{part}</p>
            <ul>
              {SETTINGS.filter((one) => one.part === part).map(({ id, name }) => (
                <li key={id}>
                  <Link
                    to={`#${id}`}
                    aria-current={hash === `#${id}` ? 'location' : undefined}
                    className="block py-[2px] hover:text-teal aria-[current]:font-semibold aria-[current]:text-teal"
                  >
                    {name}
                  </Link>
                </li>
              ))}
            </ul>
          </div>
        ))}
      </nav>
      <div ref={scroller} className="min-w-0 flex-1 overflow-y-auto">
        <div className="max-w-[860px] px-10 pt-6 pb-24 max-md:px-4">
          <h1 className="font-head text-lg font-semibold tracking-tight">Settings</h1>
          {PARTS.map((part) => (
            <section key={part} aria-labelledby={`part-${part.replace(/\W+/g, '-')}`} className="mt-6">
              <h2 id={`part-${part.replace(/\W+/g, '-')}`} className="border-b border-ink pb-1 font-head text-md font-semibold">
                {part}
              </h2>
              {views[part]}
            </section>
          ))}
        </div>
      </div>
    </div>
  );
}
