import type { Me } from '@corvun/contract';
import { count, saySize } from '@corvun/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useData } from '../../data/keeping';
import { useSaid } from '../../state/said';
import { button, quiet } from '../sources/common';
import { MailOut } from './MailOut';
import { Setting } from './Setting';

/** Where mail comes in, and whether it goes out. */
export function Mail({ me }: { me: Me }): ReactNode {
  const copy = () =>
    navigator.clipboard.writeText(me.captureAddress).then(
      () => useSaid.getState().say('The address is copied', 'none'),
      () => useSaid.getState().complain(new Error('The browser did not let it be copied. Mark it and copy it by hand.')),
    );
  return (
    <>
      <Setting id="capture" about="What is sent or forwarded here waits in the inbox. Anything after a plus is your own mark.">
        <p className="flex flex-wrap items-center gap-3">
          <span className="break-all select-text">{me.captureAddress}</span>
          <button type="button" className={button} onClick={() => void copy()}>
            Copy
          </button>
        </p>
      </Setting>
      <Setting
        id="mail-out"
        about={
          <>
            Answers, invitations and what you forward leave by a mail server. Whether they went is said on{' '}
            <Link to="/sources" className={quiet}>
              Sources
            </Link>
            .
          </>
        }
      >
        <MailOut me={me} />
      </Setting>
    </>
  );
}

/** What is kept, and where it is taken out. */
export function Kept(): ReactNode {
  const data = useData();
  return (
    <Setting id="data" about="Everything lies on the machine Corvun runs on.">
      <p>
        {data.data
          ? `${saySize(data.data.database)} of database and ${count(data.data.files.count, 'file')} of ${saySize(data.data.files.bytes)}. `
          : ''}
        <Link to="/data" className={quiet}>
          Backups, export, import and checks
        </Link>
      </p>
    </Setting>
  );
}
