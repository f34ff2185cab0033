import { existsSync, readdirSync, readFileSync } from 'node:fs';

const statOf = (pid: number): { parent: number; state: string } | undefined => {
  try {
    const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const [state, parent] = text.slice(text.lastIndexOf(')') + 2).split(' ');
    return { parent: Number(parent), state: state! };
  } catch {
    return undefined;
  }
};

export const isRunning = (pid: number): boolean => existsSync(`/proc/${pid}`) && statOf(pid)?.state !== 'Z';

/** Ids of all processes that descend from one. */
export function descendantsOf(root: number): number[] {
  const parents = new Map(
    readdirSync('/proc')
      .filter((name) => /^\d+$/.test(name))
      .flatMap((name) => {
        const stat = statOf(Number(name));
        return stat ? [[Number(name), stat.parent] as const] : [];
      }),
  );
  const found = [root];
  for (let index = 0; index < found.length; index += 1)
    for (const [pid, parent] of parents) if (parent === found[index]) found.push(pid);
  return found.slice(1);
}
