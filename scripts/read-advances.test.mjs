import assert from 'node:assert/strict';
import { readFileSync } from 'node:fs';
import { test } from 'node:test';
import { advancesFile, advancesSource } from './read-advances.mjs';

test('the advances that text is laid out by are those of the shipped serif', () => {
  assert.equal(readFileSync(advancesFile, 'utf8'), advancesSource());
});
