'use client';

import type { EChartsCoreOption, EChartsType } from 'echarts/core';
import { Download } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';

export interface ChartTable {
  columns: string[];
  rows: (string | number)[][];
}
export interface ChartProps {
  /** What the chart shows, in words. */
  label: string;
  /** Built from the colours of the theme, given by their name in the style sheet. */
  option: (colour: (name: string) => string) => EChartsCoreOption;
  table: ChartTable;
  height?: number;
  fileName: string;
}

const csvOf = (t: ChartTable): string =>
  [t.columns, ...t.rows]
    .map((r) =>
      r
        .map(
          (c) =>
            `"${String(c)
              .replaceAll('"', '""')
              .replace(/^[=+@\t\r]|^-(?![\d.])/, "'$&")}"`,
        )
        .join(','),
    )
    .join('\r\n');

function save(href: string, name: string): void {
  const a = document.createElement('a');
  a.href = href;
  a.download = name;
  a.click();
}

/** The picture as PNG, painted from its own SVG. */
async function toPng(chart: EChartsType, fileName: string, ground: string): Promise<void> {
  const image = new Image();
  await new Promise<void>((resolve, reject) => {
    image.onload = () => resolve();
    image.onerror = () => reject(new Error('the chart could not be painted'));
    image.src = chart.getDataURL({ type: 'svg' });
  });
  const canvas = document.createElement('canvas');
  canvas.width = 2 * chart.getWidth();
  canvas.height = 2 * chart.getHeight();
  const ctx = canvas.getContext('2d');
  if (!ctx) return;
  ctx.fillStyle = ground;
  ctx.fillRect(0, 0, canvas.width, canvas.height);
  ctx.drawImage(image, 0, 0, canvas.width, canvas.height);
  save(canvas.toDataURL('image/png'), `${fileName}.png`);
}

/**
 * A chart in the palette of the house, with the same numbers as a table, and both to take away. The
 * drawing engine is fetched when it is shown.
 */
export function Chart({ label, option, table, height = 300, fileName }: ChartProps) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<EChartsType | null>(null);
  const [asTable, setAsTable] = useState(false);
  useEffect(() => {
    const element = box.current;
    if (!element || asTable) return;
    let gone = false;
    const watch = new ResizeObserver(() => {
      chart.current?.resize();
    });
    const themes = new MutationObserver(() => {
      paint();
    });
    const paint = () => {
      const style = getComputedStyle(document.documentElement);
      chart.current?.setOption(
        option((name) => style.getPropertyValue(name).trim()),
        true,
      );
    };
    void import('./engine').then(({ init }) => {
      if (gone) return;
      chart.current ??= init(element, null, { renderer: 'svg' });
      paint();
      watch.observe(element);
      themes.observe(document.documentElement, {
        attributes: true,
        attributeFilter: ['data-theme'],
      });
    });
    return () => {
      gone = true;
      watch.disconnect();
      themes.disconnect();
    };
  }, [option, asTable]);
  useEffect(
    () => () => {
      chart.current?.dispose();
      chart.current = null;
    },
    [asTable],
  );
  return (
    <figure aria-label={label}>
      {asTable ? (
        <div className="overflow-x-auto">
          <table className="ruled max-w-[44rem]">
            <caption className="sr-only">{label}</caption>
            <thead>
              <tr>
                {table.columns.map((c) => (
                  <th key={c}>{c}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {table.rows.map((r, i) => (
                <tr key={i}>
                  {r.map((c, k) => (
                    <td key={k}>{c}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : (
        <div ref={box} role="img" aria-label={label} style={{ height }} className="w-full" />
      )}
      <div className="no-print mt-1 flex gap-2">
        <button
          type="button"
          className="button"
          aria-pressed={asTable}
          onClick={() => setAsTable((t) => !t)}
        >
          {asTable ? 'As chart' : 'As table'}
        </button>
        {!asTable && (
          <button
            type="button"
            className="button"
            onClick={() => {
              if (chart.current)
                void toPng(
                  chart.current,
                  fileName,
                  getComputedStyle(document.documentElement).getPropertyValue('--paper').trim(),
                );
            }}
          >
            <Download size={14} aria-hidden /> PNG
          </button>
        )}
        <button
          type="button"
          className="button"
          onClick={() =>
            save(
              `data:text/csv;charset=utf-8,${encodeURIComponent(csvOf(table))}`,
              `${fileName}.csv`,
            )
          }
        >
          <Download size={14} aria-hidden /> CSV
        </button>
      </div>
    </figure>
  );
}
