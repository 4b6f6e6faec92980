import type { IncomingFull } from '@corvun/contract';
import type { ReactNode } from 'react';
import { KEYS, keyName } from '../../keys';
import { Part, later } from '../../parts/later';
import { Key } from '../../parts/signs';
import type { Decide } from './decide';
import { openMail, useDrafts } from './draft';
import { WriteForm } from './WriteForm';

const NO_WAY = later(async () => (await import('../../parts/NoWayOut')).NoWayLine);

/** Two minutes: a reply or a forward right below the mail. */
export function WriteBack(props: { incoming: IncomingFull; decide: Decide; canSend: boolean }): ReactNode {
  const { incoming, canSend } = props;
  const mail = useDrafts((state) => state.drafts[incoming.id]?.mail);
  const noWay = !canSend && <Part of={NO_WAY} with={{ className: 'mx-8 mt-6 -mb-4 @max-[560px]/sheet:mx-4' }} />;
  if (mail && !mail.closed)
    return (
      <>
        {noWay}
        <WriteForm {...props} mail={mail} />
      </>
    );
  const begun = mail?.text.trim() ? mail.kind : null;
  const turn = (kind: 'reply' | 'forward', key: string, name: string, again: string) => (
    <button type="button" className="border border-ink px-3 py-1 hover:bg-paper" onClick={() => openMail(incoming.id, kind)}>
      {begun === kind ? again : name} <Key>{keyName(key)}</Key>
    </button>
  );
  return (
    <>
      {noWay}
      <div className="mx-8 mt-6 flex gap-2 text-xs @max-[560px]/sheet:mx-4">
        {turn('reply', KEYS.sort.writeBack, 'Reply', 'Go on with the reply')}
        {turn('forward', KEYS.sort.passOn, 'Give on', 'Go on with giving it on')}
      </div>
    </>
  );
}
