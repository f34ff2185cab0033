import { cpus, totalmem } from 'node:os';

interface Row {
  readonly what: string;
  readonly measured: string;
  readonly ratio: string;
  readonly goal: string;
  readonly isMet: boolean;
}
const rows: Row[] = [];
/** Notes one figure and prints it. */
export function report(what: string, measured: string, ratio: string, goal: string, isMet: boolean): void {
  rows.push({ what, measured, ratio, goal, isMet });
  console.log(`${isMet ? ' met ' : 'MISSED'}  ${what}: ${measured} ${ratio} (goal ${goal})`);
}
export const ms = (value: number) => `${value.toFixed(1)} ms`;
export const times = (value: number) => `${value.toFixed(2)} ×`;

/** The table as Markdown, with the machine's description. */
export function table(): string {
  const { model } = cpus()[0]!;
  const machine = `${cpus().length} cores (${model}), ${(totalmem() / 1024 ** 3).toFixed(0)} GiB, no GPU, Chromium headless, Node.js ${process.version}`;
  const lines = rows.map(
    ({ what, measured, ratio, goal, isMet }) =>
      `| ${what} | ${measured} | ${ratio} | ${goal} | ${isMet ? 'yes' : '**no**'} |`,
  );
  return `# Benchmarks

Written by \`npm run bench\` on ${new Date().toISOString().slice(0, 10)}: ${machine}. Peers and limit were measured in the same run; shared machines are noisy,
so the ratios count, not the milliseconds. The limit blits one cached frame and does nothing else. No page can be shown faster than the
display's 16.7 ms: where a peer needs less than eight times that, nothing can be eight times faster, and the row is missed.

| what | measured | ratio | goal | met |
| --- | --- | --- | --- | --- |
${lines.join('\n')}
`;
}
