import { startServer } from './server.ts';
import { settingsFrom } from './settings.ts';

const server = await startServer(settingsFrom(process.env));
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
