import { type ChildProcess, fork } from 'node:child_process';
import { programOf } from '../../programs.ts';
import type { TaskInput, TaskName, TaskResult } from '../tasks.ts';
import type { Answered, Asked, ChildSettings } from './child.ts';
import { MEMORY_SIGNAL } from './watchdog.ts';

/** Why a file was not decoded: it cannot be read, or reading it broke a limit or the process that did it. */
export type DecodeReason = 'unreadable' | 'time' | 'memory' | 'died';

export class DecodeError extends Error {
  readonly reason: DecodeReason;
  constructor(reason: DecodeReason, message: string) {
    super(message);
    this.reason = reason;
  }
}

/** Longest times, ms: many times what the largest picture that intake takes needs on a slow computer. */
const LIMIT_MS: Readonly<Record<TaskName, number>> = {
  examine: 10_000,
  facts: 10_000,
  small: 15_000,
  print: 15_000,
  page: 10_000,
  levels: 75_000,
  measures: 75_000,
  histogram: 75_000,
  pyramid: 600_000,
  exact: 600_000,
  part: 120_000,
};
/** A picture of 120 million pixels of 16 bits, read whole and turned, takes about this much. */
const MOST_BYTES = 2 * 1024 ** 3;
const START_MS = 30_000;

interface Task {
  readonly name: TaskName;
  readonly input: unknown;
  readonly limitMs: number;
  resolve(value: unknown): void;
  reject(error: Error): void;
}

/** What those need who only want something decoded. */
export type Decoding = Pick<Decoders, 'run'>;

/** One process and what it is doing. */
class Seat {
  readonly #settings: ChildSettings;
  readonly #onFree: () => void;
  #child: ChildProcess | undefined;
  #isReady = false;
  #task: Task | undefined;
  #count = 0;
  #isLate = false;
  #timer: NodeJS.Timeout | undefined;

  constructor(settings: ChildSettings, onFree: () => void) {
    this.#settings = settings;
    this.#onFree = onFree;
  }

  get isFree(): boolean {
    return this.#task === undefined;
  }
  get pid(): number | undefined {
    return this.#child?.pid;
  }

  start(task: Task): void {
    this.#task = task;
    this.#child ??= this.#fork();
    if (this.#isReady) this.#begin();
    else this.#limit(START_MS);
  }

  stop(): void {
    this.#child?.kill('SIGKILL');
  }

  #fork(): ChildProcess {
    const { path, execArgv } = programOf('decoder');
    const child = fork(path, [JSON.stringify(this.#settings)], {
      execArgv,
      serialization: 'advanced',
      env: { PATH: process.env.PATH, HOME: process.env.HOME, TMPDIR: process.env.TMPDIR },
    });
    child.on('message', (message: 'ready' | Answered) => {
      if (message === 'ready') {
        this.#isReady = true;
        if (this.#task) this.#begin();
      } else this.#end(message);
    });
    child.on('error', () => {});
    child.on('exit', (_code, signal) => this.#mourn(signal));
    return child;
  }

  #limit(ms: number): void {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => {
      this.#isLate = true;
      this.#child?.kill('SIGKILL');
    }, ms);
  }

  #begin(): void {
    const { name, input, limitMs } = this.#task!;
    this.#limit(limitMs);
    this.#count += 1;
    const asked: Asked = { id: this.#count, name, input };
    // A child that is just going away is mourned by its exit.
    this.#child!.send(asked, () => {});
  }

  #take(): Task | undefined {
    const task = this.#task;
    clearTimeout(this.#timer);
    this.#task = undefined;
    return task;
  }

  #end(answer: Answered): void {
    if (answer.id !== this.#count) return;
    const task = this.#take();
    if ('error' in answer) task?.reject(new DecodeError('unreadable', answer.error));
    else task?.resolve(answer.value);
    this.#onFree();
  }

  #mourn(signal: NodeJS.Signals | null): void {
    const isLate = this.#isLate;
    this.#child = undefined;
    this.#isReady = false;
    this.#isLate = false;
    const task = this.#take();
    if (task) {
      const seconds = Math.round(task.limitMs / 1000);
      if (isLate) task.reject(new DecodeError('time', `It takes more than ${seconds} seconds to read.`));
      else if (signal === MEMORY_SIGNAL)
        task.reject(new DecodeError('memory', 'It takes more memory to read than one picture may.'));
      else task.reject(new DecodeError('died', 'Reading it ended the program that does so.'));
    }
    this.#onFree();
  }
}

/**
 * Processes in which files are decoded, each with limits of time and memory, each killed alone when one is broken. They
 * start when they are first needed.
 */
export class Decoders {
  readonly #seats: Seat[];
  readonly #waiting: Task[] = [];
  #isStopped = false;

  /** @param isPatient - everything else on this computer comes first */
  constructor(count: number, { isPatient = false, mostBytes = MOST_BYTES } = {}) {
    this.#seats = Array.from({ length: count }, () => new Seat({ isPatient, mostBytes }, () => this.#next()));
  }

  /** Ids of the processes that run now. */
  get pids(): number[] {
    return this.#seats.flatMap(({ pid }) => pid ?? []);
  }

  /** @throws DecodeError */
  run<K extends TaskName>(
    name: K,
    input: TaskInput<K>,
    limitMs: number = LIMIT_MS[name],
  ): Promise<TaskResult<K>> {
    return new Promise((resolve, reject) => {
      this.#waiting.push({ name, input, limitMs, resolve: resolve as (value: unknown) => void, reject });
      this.#next();
    });
  }

  /** Ends all of them at once, whatever they are doing. */
  stop(): void {
    this.#isStopped = true;
    for (const task of this.#waiting.splice(0)) task.reject(new DecodeError('died', 'The server is ending.'));
    for (const seat of this.#seats) seat.stop();
  }

  #next(): void {
    if (this.#isStopped) return;
    for (const seat of this.#seats) {
      if (!seat.isFree) continue;
      const task = this.#waiting.shift();
      if (!task) return;
      seat.start(task);
    }
  }
}
