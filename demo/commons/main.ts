import { startCommons } from './server.ts';

/** `main.ts 4861`: the stand-in web as a process of its own; tells its parent where it is. */
const running = await startCommons(Number(process.argv[2] ?? 0));
process.send?.({ serving: running.address });
process.on('SIGTERM', () => void running.stop().then(() => process.exit(0)));
