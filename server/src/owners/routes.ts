import { SETTINGS_ROUTES } from '@miradero/core/contracts';
import type { Settings } from '@miradero/core/schema';
import type { Knex } from '../database/connection.ts';
import { notifyNews } from '../database/notify.ts';
import { findSettings, saveSettings } from '../database/owner-settings.ts';
import { type Route, routesFor } from '../requests/route.ts';

/** `/api/settings`: what a person set for all of their windows. */
export const settingsRoutes = (knex: Knex, onSaved: (settings: Settings) => Promise<void>): Route[] =>
  routesFor(SETTINGS_ROUTES, {
    async 'GET /api/settings'({ owner, response }) {
      response.set('Cache-Control', 'no-store');
      return { settings: await findSettings(knex, owner) };
    },

    async 'PATCH /api/settings'({ owner, body }) {
      await saveSettings(knex, owner, body);
      await notifyNews(knex, owner, { kind: 'settings' });
      const settings = await findSettings(knex, owner);
      await onSaved(settings);
      return { settings };
    },
  });
