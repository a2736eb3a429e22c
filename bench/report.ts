// What a benchmark gives: rows that were measured, and ratios that hold an aim against its reference of the same run.

import { cpus, totalmem } from 'node:os';

export interface Row {
  id: string;
  value: number;
  /** ms, files/s, MB … */
  unit: string;
}

export interface Ratio {
  id: string;
  value: number;
  /** What the value should be at least (or at most, with `atMost`). */
  aim: number;
  met: boolean;
}

/** What a part of a benchmark gives. */
export interface Part {
  rows: Row[];
  ratios: Ratio[];
}

export interface Report {
  bench: string;
  machine: { cpu: string; cores: number; memoryGB: number; node: string };
  rows: Row[];
  ratios: Ratio[];
}

/** A report with the machine it was made on. */
export function report(bench: string, rows: Row[], ratios: Ratio[]): Report {
  const [cpu] = cpus();
  return {
    bench,
    machine: {
      cpu: cpu?.model ?? 'unknown',
      cores: cpus().length,
      memoryGB: Math.round(totalmem() / 2 ** 30),
      node: process.version,
    },
    rows,
    ratios,
  };
}

export function atLeast(id: string, value: number, aim: number): Ratio {
  return { id, value, aim, met: value >= aim };
}

export function atMost(id: string, value: number, aim: number): Ratio {
  return { id, value, aim, met: value <= aim };
}

/** Median and 95th percentile of some times. */
export function quantiles(id: string, times: readonly number[], unit: string): Row[] {
  const sorted = [...times].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
  return [
    { id: `${id} p50`, value: at(0.5), unit },
    { id: `${id} p95`, value: at(0.95), unit },
  ];
}

/** The report as a table for people. */
export function tableOf({ bench, machine, rows, ratios }: Report): string {
  const width = Math.max(...[...rows, ...ratios].map(({ id }) => id.length));
  const number = (value: number) => (Math.abs(value) >= 100 ? value.toFixed(0) : value.toPrecision(3));
  return [
    `${bench} · ${machine.cpu}, ${machine.cores} cores, ${machine.memoryGB} GB, Node ${machine.node}`,
    ...rows.map(({ id, value, unit }) => `  ${id.padEnd(width)}  ${number(value).padStart(9)} ${unit}`),
    ...ratios.map(
      ({ id, value, aim, met }) =>
        `  ${id.padEnd(width)}  ${number(value).padStart(9)}  aim ${number(aim)}  ${met ? '✓ met' : '✗ missed'}`,
    ),
  ].join('\n');
}

/** The one in the middle: one round that had the machine for itself says little. */
export const medianOf = (times: readonly number[]) => quantiles('', times, 'ms')[0]?.value ?? 0;
