import type { Me } from '@corvun/contract';
import type { ReactNode } from 'react';
import { useSettings } from '../../state/settings';
import { ChosenSetting, chooseFrom } from './Setting';

/** How things are shown. */
export function Looks({ me }: { me: Me }): ReactNode {
  const { weekStart, snap, textSize } = me.settings;
  const { theme, setTheme, order, setOrder } = useSettings();
  return (
    <>
      <ChosenSetting
        of="week-start"
        about="Where Plan begins to show a week. Weeks keep the numbers of ISO 8601."
        value={weekStart}
        all={[
          [1, 'Monday'],
          [6, 'Saturday'],
          [7, 'Sunday'],
        ]}
        choose={(one) => chooseFrom({ weekStart: one })}
      />
      <ChosenSetting
        of="snap"
        about="To how many minutes blocks and events go when they are dragged or moved with the arrow keys."
        value={snap}
        all={[
          [5, '5 min'],
          [10, '10 min'],
          [15, '15 min'],
          [30, '30 min'],
        ]}
        choose={(one) => chooseFrom({ snap: one })}
      />
      <ChosenSetting
        of="theme"
        about="In this browser only."
        value={theme}
        all={[
          ['system', 'As the system'],
          ['light', 'Light'],
          ['dark', 'Dark'],
        ]}
        choose={setTheme}
      />
      <ChosenSetting
        of="text-size"
        about="In every window you are signed in with."
        value={textSize}
        all={[
          ['normal', 'Normal'],
          ['large', 'Large'],
          ['larger', 'Larger'],
        ]}
        choose={(one) => chooseFrom({ textSize: one })}
      />
      <ChosenSetting
        of="order"
        about="Which of what waits is read first on Sort; in this browser only."
        value={order}
        all={[
          ['oldest', 'Oldest first'],
          ['newest', 'Newest first'],
        ]}
        choose={setOrder}
      />
    </>
  );
}
