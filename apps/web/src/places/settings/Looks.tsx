import type { Me } from '@corvun/contract';
import type { ReactNode } from 'react';
import { useSettings } from '../../state/settings';
import { ChosenSetting, chooseFrom } from './Setting';

/** How things are shown. */
export function Looks({ me }: { me: Me }): ReactNode {
  const { weekStart, snap, textSize, density, clock, dates, typed } = me.settings;
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
        of="clock"
        about="How times of day are written everywhere, in what Corvun tells, too. Both are read, whatever is chosen."
        value={clock}
        all={[
          [24, '24 hours, 14:30'],
          [12, '12 hours, 2:30 pm'],
        ]}
        choose={(one) => chooseFrom({ clock: one })}
      />
      <ChosenSetting
        of="dates"
        about="The order of day and month. What was told before stays as it was written."
        value={dates}
        all={[
          ['day-month', 'Tue 4 Aug'],
          ['month-day', 'Tue Aug 4'],
          ['numbers', 'Tue 2026-08-04'],
        ]}
        choose={(one) => chooseFrom({ dates: one })}
      />
      <ChosenSetting
        of="typed"
        about="In what language the capture line and the fields read “Friday” or “Freitag”. Messages are always read in the language they are in."
        value={typed}
        all={[
          ['any', 'Told from the line'],
          ['en', 'English'],
          ['de', 'German'],
        ]}
        choose={(one) => chooseFrom({ typed: one })}
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
        of="density"
        about="Close shows more lines at once, in every window you are signed in with."
        value={density}
        all={[
          ['normal', 'Normal'],
          ['close', 'Close'],
        ]}
        choose={(one) => chooseFrom({ density: one })}
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
