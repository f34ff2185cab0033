import { pino } from 'pino';
import { guardProcess } from './http/last-guard.ts';
import { startServer } from './server.ts';
import { settingsFrom } from './settings.ts';

const settings = settingsFrom(process.env);
const server = await startServer(settings);
// Only now: what fails while it starts shall end it.
const log = pino({ level: settings.logLevel });
guardProcess((error) => log.error({ err: error }, 'nobody caught this'));
console.log(`serving ${server.address}`);
process.send?.({ serving: server.address });

const stop = async () => {
  await server.stop();
  process.exit(0);
};
process.on('SIGTERM', stop);
process.on('SIGINT', () => {
  // Ctrl-C reaches the whole group; the start script ends us in its own order.
  if (!process.connected) void stop();
});
process.on('disconnect', stop);
