/** The largest value of PostgreSQL's `integer`. Source: PostgreSQL 15, 8.1.1. */
const LARGEST_INTEGER = 2_147_483_647;

/** A whole number of a query or body that reaches the database as `integer`. */
export const wholeNumber = { type: 'integer', minimum: 0, maximum: LARGEST_INTEGER } as const;
