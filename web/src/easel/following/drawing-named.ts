import { ask } from '../../sync/index.ts';

/** The drawing of a sheet that is called so; one that is to be begun where there is none. @throws while the server is away */
export async function drawingNamed(board: string, name: string): Promise<string> {
  const { drawings } = await ask('GET /api/boards/:id/drawings', { parameters: { id: board } });
  return drawings.find((one) => one.name === name)?.id ?? crypto.randomUUID();
}
