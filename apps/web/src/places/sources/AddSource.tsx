import type { SourceKind } from '@corvun/contract';
import type { ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { useNear } from '../../data/sources';
import { ABOUT, ICONS, KIND_NAMES } from './common';
import { Reach } from './Reach';

/** Connecting a source: how to reach it, what to bring in with a count of it, then it fills. */
export function AddSource(): ReactNode {
  const { id } = useParams();
  const [query] = useSearchParams();
  const places = useNear();
  const kind = id && id in ABOUT ? (id as SourceKind) : null;
  const near = places.data?.find((one) => one.kind === kind && one.address === query.get('at'));
  return (
    <div className="max-w-[620px]">
      {kind ? (
        <Reach key={`${kind}${near?.address ?? ''}`} kind={kind} near={near} />
      ) : (
        <>
          <h2 className="font-head text-md font-semibold">What do you want to connect?</h2>
          <ul className="mt-2 border-t border-rule">
            {(Object.keys(ABOUT) as SourceKind[]).map((one) => {
              const Icon = ICONS[one];
              return (
                <li key={one} className="border-b border-rule">
                  <Link to={`/sources/add/${one}`} className="flex items-center gap-4 py-3 hover:bg-card">
                    <Icon size={20} className="text-teal" aria-hidden="true" />
                    <span>
                      <b className="font-semibold">{KIND_NAMES[one]}</b>
                      <span className="block text-soft">{ABOUT[one].what}</span>
                    </span>
                  </Link>
                </li>
              );
            })}
          </ul>
          {(places.data?.length ?? 0) > 0 && (
            <>
              <h2 className="mt-8 font-head text-md font-semibold">Near by, in the demo’s outside world</h2>
              <ul className="mt-2 border-t border-rule">
                {places.data?.map((one) => (
                  <li key={one.address} className="border-b border-rule">
                    <Link
                      to={`/sources/add/${one.kind}?at=${encodeURIComponent(one.address)}`}
                      className="flex items-baseline gap-3 py-2 hover:bg-card"
                    >
                      <b className="font-semibold">{one.name}</b>
                      <span className="text-xs text-soft">{KIND_NAMES[one.kind]}</span>
                      <span className="ml-auto truncate text-xs text-soft">{one.address}</span>
                    </Link>
                  </li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
    </div>
  );
}
