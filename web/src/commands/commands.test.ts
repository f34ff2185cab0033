import { describe, expect, it, vi } from 'vitest';
import { REGISTRY } from '../app/registry.ts';
import type { OwnSettings } from '../sync/index.ts';
import { byName, canonical, commandsOf, Keymap, mayMeet, Places, place, Registry, scoreOf } from './index.ts';

const settingsWith = (keys: Record<string, readonly string[]> = {}) => {
  const settings = { keys };
  return {
    settings,
    set: vi.fn(async (part: object) => void Object.assign(settings, part)),
  } as unknown as OwnSettings & { set: ReturnType<typeof vi.fn> };
};

describe('commands of a place', () => {
  const BELL = place<{ ring(times: number): void }>('bell', 'The bell', 'tower');

  it('act on what was handed over last, and do nothing where nothing is', () => {
    const [ring] = commandsOf(BELL, 'Bells', [
      ['ring', 'ring', ['a', 'b'], (bell, press) => bell.ring(press)],
    ]);
    const places = new Places();
    expect(() => ring!.run(places)).not.toThrow();
    const [small, large] = [vi.fn(), vi.fn()];
    const endSmall = places.provide(BELL, () => ({ ring: small }));
    const endLarge = places.provide(BELL, () => ({ ring: large }));
    ring!.run(places, 1);
    expect(large).toHaveBeenCalledWith(1);
    endLarge();
    ring!.run(places);
    expect(small).toHaveBeenCalledWith(0);
    endSmall();
    expect(places.has(BELL)).toBe(false);
    ring!.run(places);
    expect(small).toHaveBeenCalledTimes(1);
  });

  it('tell whoever watches when something is handed over or taken away', () => {
    const places = new Places();
    const heard = vi.fn();
    places.store.subscribe(heard);
    places.provide(BELL, () => ({ ring() {} }))();
    expect(heard).toHaveBeenCalledTimes(2);
  });

  it('have names of their own', () => {
    const twice = commandsOf(BELL, 'Bells', [
      ['ring', 'ring', [], () => {}],
      ['ring', 'ring again', [], () => {}],
    ]);
    expect(() => new Registry(twice)).toThrow('two commands are called ring');
    expect(() => new Registry([]).of('ring')).toThrow('no such command');
  });
});

describe('the commands that there are', () => {
  it('never mean two things by one key where both may be meant', () => {
    const clashes = REGISTRY.commands.flatMap((one, index) =>
      REGISTRY.commands
        .slice(index + 1)
        .filter((other) => mayMeet(one.place, other.place))
        .flatMap((other) => {
          const keys = new Set(one.keys.map(canonical));
          return other.keys.filter((key) => keys.has(canonical(key))).map((key) => [key, one.id, other.id]);
        }),
    );
    expect(clashes).toEqual([]);
  });

  it('give a key to one command and take it only from those that may be there beside it', async () => {
    const settings = settingsWith();
    const keymap = new Keymap(settings, REGISTRY.commands);
    // 3 lays on a pile in the library; on a board it is free.
    const flip = REGISTRY.of('flip');
    expect(keymap.conflictsOf(flip, '3')).toEqual([]);
    expect(keymap.conflictsOf(flip, 't').map(({ id }) => id)).toEqual(['trim']);
    await keymap.choose(flip, 't');
    expect(settings.set).toHaveBeenCalledWith({ keys: { flip: ['t'], trim: [] } });
    // What is everywhere may be meant on every page.
    expect(keymap.conflictsOf(REGISTRY.of('landing'), 'h').map(({ id }) => id)).toEqual([
      'spare',
      'library-put-away',
      'landing-put-away',
    ]);
  });

  it('are found by the words that people have for them', () => {
    const best = (words: string) =>
      REGISTRY.commands
        .map(({ id, label, also }) => ({ id, score: scoreOf(label, words, also) }))
        .sort((one, other) => other.score - one.score)[0]!.id;
    expect(best('help')).toBe('keys');
    expect(best('new board')).toBe('new-board');
    expect(best('take back')).toBe('undo');
  });
});

describe('names', () => {
  it('fit when every word occurs, better at the beginning', () => {
    const named = ['Wet rope', 'Rope walk', 'Ropes and tar', 'Lantern'].map((name) => ({ name }));
    expect(byName(named, 'rope', 8).map(({ name }) => name)).toEqual([
      'Rope walk',
      'Ropes and tar',
      'Wet rope',
    ]);
    expect(byName(named, 'tar rope', 8)).toEqual([{ name: 'Ropes and tar' }]);
    expect(scoreOf('Rope', 'lamp')).toBe(0);
  });
});
