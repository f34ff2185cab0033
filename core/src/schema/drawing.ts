import type { FromSchema } from 'json-schema-to-ts';

/** Of which drawing a picture is a version, as it comes with its bytes. */
export const aboutDrawingSchema = {
  type: 'object',
  properties: {
    /** Made by the browser that begins to follow it. */
    id: { type: 'string', format: 'uuid' },
    name: { type: 'string', format: 'name', minLength: 1, maxLength: 200 },
    /** The sheet on whose easel it is. */
    board: { type: 'string', format: 'uuid' },
    savedAt: { type: 'string', format: 'date-time' },
  },
  required: ['id', 'name', 'board', 'savedAt'],
  additionalProperties: false,
} as const;
export type AboutDrawing = FromSchema<typeof aboutDrawingSchema>;

/** A drawing made elsewhere; its versions, newest first. Times: ISO 8601. */
export interface Drawing {
  readonly id: string;
  readonly name: string;
  readonly versions: readonly {
    readonly number: number;
    readonly picture: string;
    readonly savedAt: string;
    readonly bytes: number;
  }[];
}
