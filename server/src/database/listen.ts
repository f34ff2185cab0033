import pg from 'pg';

const RETRY_MS = 500;

/**
 * Listens on a channel until stopped, over connection losses.
 *
 * @param onRegained - called after every (re)connection: whatever was told meanwhile is lost
 * @returns a function that stops listening
 */
export function listenTo(
  databaseUrl: string,
  channel: string,
  onPayload: (payload: string) => void,
  onRegained: () => void,
): () => Promise<void> {
  let isStopped = false;
  let client: pg.Client | undefined;
  let timer: NodeJS.Timeout | undefined;

  const retry = () => {
    if (isStopped || timer) return;
    timer = setTimeout(() => {
      timer = undefined;
      void connect();
    }, RETRY_MS);
  };
  const connect = async () => {
    const fresh = new pg.Client({ connectionString: databaseUrl, application_name: 'miradero news' });
    fresh.on('error', () => {
      if (client === fresh) client = undefined;
      void fresh.end().catch(() => {});
      retry();
    });
    fresh.on('notification', (message) => onPayload(message.payload ?? ''));
    try {
      await fresh.connect();
      await fresh.query(`listen ${channel}`);
      client = fresh;
      onRegained();
    } catch {
      void fresh.end().catch(() => {});
      retry();
    }
  };
  void connect();
  return async () => {
    isStopped = true;
    clearTimeout(timer);
    await client?.end().catch(() => {});
  };
}
