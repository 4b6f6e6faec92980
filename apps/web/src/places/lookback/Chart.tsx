import type { Measure } from '@corvun/core';
import { useEffect, useRef, useState, useSyncExternalStore, type ReactNode } from 'react';
import type * as Library from 'plotly.js-basic-dist-min';

/** One kind of bar: a value for each name, in minutes, and what is said of each. */
export interface Series {
  measure: Measure;
  name: string;
  minutes: readonly number[];
  says: readonly string[];
}

interface ChartProps {
  /** For those who do not see it. */
  label: string;
  /** What stands at each bar. */
  ticks: readonly string[];
  series: readonly Series[];
  /** Bars that lie: for names that are long. */
  across?: boolean;
  height: number;
  pick: (measure: Measure, at: number) => void;
}

type Colours = Record<'ink' | 'soft' | 'rule' | 'plum' | 'wash' | 'card', string>;

/** Follows the theme of the page, which a chart has to be drawn anew for. */
function useTheme(): string {
  return useSyncExternalStore(
    (changed) => {
      const watch = new MutationObserver(changed);
      watch.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme', 'data-text'] });
      return () => watch.disconnect();
    },
    () => `${document.documentElement.dataset['theme'] ?? ''} ${document.documentElement.dataset['text'] ?? ''}`,
  );
}

function coloursOf(): Colours {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(name).trim();
  return {
    ...{ ink: of('--ink'), soft: of('--ink-soft'), rule: of('--rule') },
    ...{ plum: of('--plum'), wash: of('--plum-wash'), card: of('--card') },
  };
}

/** Promised is ink, planned an outline, spent is filled: they differ without their colours, too. */
const looks = (measure: Measure, { ink, soft, plum, wash }: Colours): Library.PlotData['marker'] =>
  ({
    promised: { color: soft, line: { color: ink, width: 0 } },
    planned: { color: wash, line: { color: plum, width: 1.4 } },
    spent: { color: plum, line: { color: plum, width: 0 } },
  })[measure];

const EMPTY_HOURS = 4;
/** Pixels that a letter below a bar takes, and that lie between two names. */
const LETTER = 7;
const GAP = 8;

/** Bars side by side, of which each can be picked. The same numbers stand in a table beside it. */
export function Chart({ label, ticks, series, across = false, height, pick }: ChartProps): ReactNode {
  const frame = useRef<HTMLDivElement>(null);
  const [library, setLibrary] = useState<typeof Library | null>(null);
  const [missing, setMissing] = useState(false);
  const [width, setWidth] = useState(0);
  const theme = useTheme();
  const picks = useRef(pick);
  useEffect(() => {
    picks.current = pick;
  }, [pick]);
  useEffect(() => {
    let here = true;
    import('plotly.js-basic-dist-min').then(
      (found: typeof Library & { default?: typeof Library }) => here && setLibrary(() => found.default ?? found),
      () => here && setMissing(true),
    );
    return () => {
      here = false;
    };
  }, []);
  useEffect(() => {
    const div = frame.current;
    if (!library || !div) return;
    const colours = coloursOf();
    const font = { family: getComputedStyle(document.body).fontFamily, size: 12.5, color: colours.soft };
    const most = Math.max(0, ...series.flatMap(({ minutes }) => minutes));
    const values = {
      gridcolor: colours.rule,
      zerolinecolor: colours.rule,
      ticksuffix: ' h',
      rangemode: 'tozero',
      fixedrange: true,
    };
    const scale = { ...values, ...(most ? { nticks: 6 } : { range: [0, EMPTY_HOURS] }) } as const;
    const data = series.map(({ measure, name, minutes, says }): Partial<Library.PlotData> => {
      // A bar of nothing would still have its outline.
      const hours = minutes.map((one) => (one ? one / 60 : null));
      const at = ticks.map((_, index) => index);
      return {
        ...{ type: 'bar', name, orientation: across ? 'h' : 'v', marker: looks(measure, colours), customdata: [...says] },
        ...(across ? { x: hours, y: at } : { x: at, y: hours }),
        hovertemplate: '%{customdata}<extra></extra>',
      };
    });
    const longest = Math.max(1, ...ticks.map(({ length }) => length));
    const fits = Math.max(1, Math.floor(div.clientWidth / (longest * LETTER + GAP)));
    const step = across ? 1 : Math.ceil(ticks.length / fits);
    const named = ticks.flatMap((_, index) => (index % step ? [] : [index]));
    const axis = {
      ...{ type: 'linear', fixedrange: true, automargin: true, showgrid: false, zeroline: false },
      ...{ tickmode: 'array', tickvals: named, ticktext: named.map((index) => ticks[index] ?? ''), tickangle: 0 },
      ...{ ticks: 'outside', ticklen: 6, tickcolor: 'rgba(0,0,0,0)', tickfont: { ...font, color: colours.ink } },
    } as const;
    const layout = {
      ...{ height, font, bargap: across ? 0.28 : 0.24, bargroupgap: 0.06, showlegend: false, dragmode: false },
      ...{ paper_bgcolor: 'rgba(0,0,0,0)', plot_bgcolor: 'rgba(0,0,0,0)' },
      margin: across ? { l: 8, r: 12, t: 4, b: 26 } : { l: 40, r: 8, t: 8, b: 26 },
      hoverlabel: { bgcolor: colours.card, bordercolor: colours.ink, font: { ...font, color: colours.ink } },
      ...(across ? { xaxis: scale, yaxis: { ...axis, autorange: 'reversed' } } : { yaxis: scale, xaxis: axis }),
    } as Partial<Library.Layout>;
    void library.react(div, data, layout, { displayModeBar: false, responsive: false }).then((drawn) => {
      drawn.removeAllListeners('plotly_click');
      drawn.on('plotly_click', ({ points: [point] }) => {
        const measure = series[point?.curveNumber ?? 0]?.measure;
        if (point && measure) picks.current(measure, point.pointNumber);
      });
    });
  }, [library, series, ticks, across, height, label, theme, width]);
  useEffect(() => {
    const div = frame.current;
    if (!library || !div) return;
    const watch = new ResizeObserver(() => setWidth(div.clientWidth));
    watch.observe(div);
    return () => {
      watch.disconnect();
      library.purge(div);
    };
  }, [library]);
  return (
    <div role="img" aria-label={label} style={{ height }} className="min-w-0">
      {missing && <p className="text-soft">The chart could not be loaded. Its numbers stand in the table.</p>}
      <div ref={frame} aria-hidden="true" className="h-full [&_.nsewdrag]:cursor-default [&_.point]:cursor-pointer" />
    </div>
  );
}
