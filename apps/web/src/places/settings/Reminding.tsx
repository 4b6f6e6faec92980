import type { Me } from '@corvun/contract';
import type { Remind } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { askPermission, permission } from '../../reminders/notify';
import { ChosenSetting, chooseFrom } from './Setting';

const YES_NO = [
  ['yes', 'Yes'],
  ['no', 'No'],
] as const;
const sides = (on: boolean) => (on ? 'yes' : 'no');

/** What one is reminded of, and how. */
export function Reminding({ me }: { me: Me }): ReactNode {
  const { remind } = me.settings;
  const [may, setMay] = useState(permission);
  const choose = (change: Partial<Remind>) => chooseFrom({ remind: change });
  const bySystem = async (on: boolean) => {
    const allowed = on ? await askPermission() : may;
    setMay(allowed);
    choose({ system: on && allowed === 'granted' });
  };
  return (
    <>
      <ChosenSetting
        of="remind-before"
        about="Before every event of a shown calendar that says nothing itself; on its sheet an event can say something else."
        value={remind.before ?? -1}
        all={[
          [-1, 'Not at all'],
          [0, 'When it begins'],
          [5, '5 min'],
          [10, '10 min'],
          [15, '15 min'],
          [30, '30 min'],
          [60, '1 h'],
        ]}
        choose={(minutes) => choose({ before: minutes < 0 ? null : minutes })}
      />
      <ChosenSetting
        of="remind-blocks"
        about="When time that was set aside begins: work, quiet and breaks."
        value={sides(remind.blocks)}
        all={YES_NO}
        choose={(side) => choose({ blocks: side === 'yes' })}
      />
      <ChosenSetting
        of="remind-system"
        about={
          may === 'denied'
            ? 'This browser was told not to show notifications of Corvun; that is changed in its own settings.'
            : may === 'impossible'
              ? 'This browser cannot show notifications.'
              : 'Beside other windows, too, by the one window of Corvun that is first. The browser asks once.'
        }
        value={sides(remind.system && may === 'granted')}
        all={YES_NO}
        choose={(side) => void bySystem(side === 'yes')}
      />
      <ChosenSetting
        of="remind-mail"
        about={`To ${me.email}, besides. An event can ask for mail itself.`}
        value={sides(remind.mail)}
        all={YES_NO}
        choose={(side) => choose({ mail: side === 'yes' })}
      />
    </>
  );
}
