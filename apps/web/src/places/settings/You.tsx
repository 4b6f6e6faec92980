import type { Me } from '@corvun/contract';
import type { ReactNode } from 'react';
import { useNow } from '../../parts/useNow';
import { KeptField, Setting } from './Setting';
import { ZONES, clockIn } from './zones';

const several = (text: string) =>
  text
    .split(/[,;\s]+/)
    .map((one) => one.trim())
    .filter(Boolean);

/** Who one is, and where. */
export function You({ me }: { me: Me }): ReactNode {
  const now = useNow();
  const { addresses, zones } = me.settings;
  return (
    <>
      <Setting id="name" about="Signs what you send, and is the name by which a message asks you.">
        <KeptField label="Name" bare value={me.name} maxLength={120} read={(name) => ({ name })} autoComplete="name" />
      </Setting>
      <Setting
        id="addresses"
        about={
          <>
            Besides {me.email}: an invitation to one of these is answered as yours, and what you wrote from it does not come in.
          </>
        }
      >
        <KeptField
          label="My mail addresses, parted by commas"
          bare
          value={addresses.join(', ')}
          placeholder="none besides"
          spellCheck={false}
          read={(text) => ({ addresses: several(text) })}
        />
      </Setting>
      <Setting id="zone" about="All times are shown in it. What is in the calendar keeps its own zone.">
        <KeptField
          label="Time zone"
          bare
          value={me.zone}
          list="zone-names"
          spellCheck={false}
          read={(zone) => ({ zone: zone.trim() })}
          says={(zone) => clockIn(zone.trim(), now)}
        />
      </Setting>
      <Setting id="zones" about="Their hours stand beside yours on Plan: at most two.">
        <KeptField
          label="Further zones, parted by commas"
          bare
          value={zones.join(', ')}
          list="zone-names"
          placeholder="none"
          spellCheck={false}
          read={(text) => ({ zones: several(text) })}
          says={(text) =>
            several(text)
              .map((zone) => clockIn(zone, now))
              .filter(Boolean)
              .join(' · ')
          }
        />
      </Setting>
      <datalist id="zone-names">
        {ZONES.map((zone) => (
          <option key={zone} value={zone} />
        ))}
      </datalist>
    </>
  );
}
