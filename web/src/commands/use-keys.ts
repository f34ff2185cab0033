import { useLayoutEffect } from 'react';
import { isInDialog, isTyping } from '../shell/index.ts';
import type { Command } from './command.ts';
import { useCommands } from './commands-context.tsx';
import { isKeyOf, isPress } from './key-press.ts';
import type { Keymap } from './keymap.ts';

/** A key held longer than this was no tap. */
const TAP_MS = 350;
/** What is pressed by these, and what is stepped through by arrows. */
const PRESSED = 'button, a, summary, [role="radio"], [role="dialog"]';
const STEPPED = '[role="radio"], [role="dialog"], [role="slider"]';

/** A focused control keeps the keys that work it; Space pans only while the stage has it. */
function isWorkingControl(event: KeyboardEvent): boolean {
  const isWithin = (controls: string) => (event.target as HTMLElement).closest?.(controls) != null;
  if (event.ctrlKey || event.metaKey || event.altKey) return false;
  if (event.key.startsWith('Arrow')) return isWithin(STEPPED);
  return (event.key === 'Enter' || event.key === ' ') && isWithin(PRESSED);
}

/**
 * Makes every command that applies reachable by its keys; what is of the page comes before what is everywhere.
 *
 * @param heard - the window whose keys they are
 */
export function useKeys(keymap: Keymap, heard: Window = window): void {
  const { registry, places } = useCommands();
  useLayoutEffect(() => {
    /** The command whose key is down, and since when. */
    let down: { command: Command; sinceMs: number } | undefined;
    const commandFor = (event: KeyboardEvent): Command | undefined => {
      const fitting = registry.commands.filter(
        (command) =>
          places.has(command.place) && keymap.keysOf(command).some((press) => isPress(event, press)),
      );
      return fitting.find(({ place }) => place.page !== undefined) ?? fitting[0];
    };
    const onDown = (event: KeyboardEvent) => {
      if (isTyping(event) || isInDialog(event)) return;
      const command = commandFor(event);
      if (!command || isWorkingControl(event)) return;
      event.preventDefault();
      if (event.repeat && !(command.isRepeating && !command.held)) return;
      if (!command.held)
        command.run(
          places,
          keymap.keysOf(command).findIndex((press) => isPress(event, press)),
        );
      else if (!down) {
        down = { command, sinceMs: event.timeStamp };
        command.held.hold(places);
      }
    };
    const letGo = (atMs: number) => {
      if (!down) return;
      const { command, sinceMs } = down;
      down = undefined;
      if (command.held!.letGo(places) && atMs - sinceMs < TAP_MS) command.run(places);
    };
    const onUp = (event: KeyboardEvent) => {
      if (down && keymap.keysOf(down.command).some((press) => isKeyOf(event, press))) letGo(event.timeStamp);
    };
    // Whatever was held is held no more; that is no tap.
    const onBlur = () => letGo(Number.POSITIVE_INFINITY);
    heard.addEventListener('keydown', onDown);
    heard.addEventListener('keyup', onUp);
    heard.addEventListener('blur', onBlur);
    return () => {
      heard.removeEventListener('keydown', onDown);
      heard.removeEventListener('keyup', onUp);
      heard.removeEventListener('blur', onBlur);
      // What lies under the held key must not stay held.
      onBlur();
    };
  }, [keymap, registry, places, heard]);
}
