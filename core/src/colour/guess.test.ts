import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  colourOfGuess,
  directionWords,
  errorOfGuess,
  errorsByHue,
  errorsByValue,
  guessOfColour,
  hexOfRgb,
  munsellValueOf,
  rgbOf8,
} from './index.ts';

const colour8 = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)).map(([r, g, b]) => rgbOf8(r, g, b));

it('a colour is set by value, chroma and hue, and comes back', () => {
  fc.assert(
    fc.property(colour8, (colour) => {
      expect(hexOfRgb(colourOfGuess(guessOfColour(colour)))).toBe(hexOfRgb(colour));
    }),
  );
});

it('the value that is set is the value that is seen, whatever the hue', () => {
  const hue = fc.double({ min: 0, max: 360, noNaN: true });
  fc.assert(
    fc.property(fc.double({ min: 3, max: 8, noNaN: true }), hue, (value, hueDeg) => {
      // Chroma that sRGB has at every hue.
      expect(munsellValueOf(colourOfGuess({ value, chroma: 12, hueDeg }))).toBeCloseTo(value, 3);
    }),
  );
});

it('an error is how the guess differs from the truth', () => {
  const { value, deltaE } = errorOfGuess('#7e6650', '#a78c70');
  expect(value).toBeGreaterThan(1);
  expect(deltaE).toBeGreaterThan(5);
  expect(directionWords(errorOfGuess('#808890', '#988870'))).toMatch(/^warmer/);
  expect(errorOfGuess('#7e6650', '#7e6650').deltaE).toBe(0);
});

it('errors are told by hue, greys left out, and by value; each belongs to one group', () => {
  const errors = [
    errorOfGuess('#c8281e', '#d83020'),
    errorOfGuess('#143ca0', '#2048b0'),
    errorOfGuess('#808080', '#909090'),
    errorOfGuess('#0a0a0a', '#202020'),
    errorOfGuess('#ffffff', '#f0f0f0'),
  ];
  expect(errorsByHue(errors).reduce((sum, { count }) => sum + count, 0)).toBe(2);
  const byValue = errorsByValue(errors);
  expect(byValue.reduce((sum, { count }) => sum + count, 0)).toBe(5);
  expect(byValue.at(0)).toMatchObject({ at: 1 });
  expect(byValue.at(-1)!.value).toBeLessThan(0);
  expect(byValue.at(0)!.value).toBeGreaterThan(0);
});
