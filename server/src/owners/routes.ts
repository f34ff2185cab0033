import { type Settings, settingsSchema } from '@miradero/core/schema';
import { json, Router } from 'express';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findSettings, saveSettings } from '../database/owner-settings.ts';
import { bodyParser } from '../http/validation.ts';

const parseSettings = bodyParser<Settings>(settingsSchema);

/** `/api/settings`: what a person set for all of their windows. */
export function settingsRoutes(knex: Knex, owner: string): Router {
  const router = Router();
  router.get('/', async (_request, response) => {
    response.set('Cache-Control', 'no-store').json({ settings: await findSettings(knex, owner) });
  });
  router.patch('/', json(), async (request, response) => {
    await saveSettings(knex, owner, parseSettings(request.body));
    await notifyNews(knex, owner, { kind: 'settings' });
    response.json({ settings: await findSettings(knex, owner) });
  });
  return router;
}
