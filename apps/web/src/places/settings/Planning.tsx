import type { Me } from '@corvun/contract';
import { readStretches, sayMinutes, sayStretches, type PlanningRules } from '@corvun/core';
import type { ReactNode } from 'react';
import { KeptField, Setting, chooseFrom } from './Setting';

const minutes = (text: string) => (Number(text) > 0 ? sayMinutes(Number(text)) : '');

/** What plans go by. */
export function Planning({ me }: { me: Me }): ReactNode {
  const { planning } = me.settings;
  const changed = (change: Partial<PlanningRules>) => ({ planning: change });
  return (
    <>
      <Setting
        id="deep"
        about="Plans put deep work into these hours, and keep light work out of them. Nothing: all hours are alike."
      >
        <KeptField
          label="Hours for deep work"
          bare
          value={sayStretches(planning.deep)}
          placeholder="none"
          read={(text) => changed({ deep: readStretches(text) })}
        />
      </Setting>
      <Setting id="limit" about="Plans set aside at most so many minutes a day for tasks. Nothing: as much as is free.">
        <KeptField
          label="Minutes of a day"
          bare
          inputMode="numeric"
          value={planning.limit === null ? '' : String(planning.limit)}
          placeholder="no limit"
          read={(text) => changed({ limit: text.trim() ? Number(text) : null })}
          says={minutes}
        />
      </Setting>
      <Setting id="share" about="What plans leave free: for what comes up, and for whoever does the work.">
        <KeptField
          label="Percent of what is free on a day that plans set aside at most"
          inputMode="numeric"
          value={String(planning.share)}
          read={(text) => changed({ share: Number(text.replace('%', '')) })}
          says={(text) => (Number(text) < 100 ? `${100 - Number(text)} % stay free` : 'nothing stays free')}
        />
        <label className="mt-1 flex min-h-6 w-fit items-center gap-2">
          <input
            type="checkbox"
            className="accent-teal"
            checked={planning.pauses}
            onChange={(event) => chooseFrom(changed({ pauses: event.target.checked }))}
          />
          Leave pauses, and time for lunch
        </label>
      </Setting>
      <Setting id="parts" about="Work that takes long may be planned in parts, but not in crumbs. In minutes.">
        <div className="grid max-w-[420px] grid-cols-2 gap-4">
          <KeptField
            label="In parts from"
            inputMode="numeric"
            value={String(planning.parts.from)}
            read={(text) => changed({ parts: { ...planning.parts, from: Number(text) } })}
            says={minutes}
          />
          <KeptField
            label="Shortest part"
            inputMode="numeric"
            value={String(planning.parts.least)}
            read={(text) => changed({ parts: { ...planning.parts, least: Number(text) } })}
            says={minutes}
          />
        </div>
      </Setting>
      <Setting
        id="places"
        about="Tags that are places, parted by commas: what has the same one is planned together, for one way there."
      >
        <KeptField
          label="Tags that are places"
          bare
          value={planning.places.map((tag) => `#${tag}`).join(', ')}
          placeholder="#town, #hut"
          read={(text) =>
            changed({
              places: text
                .split(/[,\s]+/)
                .map((tag) => tag.replace(/^#/, ''))
                .filter(Boolean),
            })
          }
        />
      </Setting>
    </>
  );
}
