import { isText, lengthOfText, TEXT_MOST, type Text } from '@miradero/core/text';
import { useEffect, useState } from 'react';
import type { RichEditor } from './rich-editor.ts';

let loaded: RichEditor | undefined;
let loading: Promise<RichEditor> | undefined;

/** Loads what formats text; asked again after a failure. */
export function loadRichEditor(): Promise<RichEditor> {
  loading ??= import('./rich-editor.ts').then(
    (module) => {
      loaded = module;
      return module;
    },
    (error: unknown) => {
      loading = undefined;
      throw error;
    },
  );
  return loading;
}

/** What formats text; undefined while it is not here. @param onFailure - it cannot be had right now */
export function useRichEditor(onFailure: () => void): RichEditor | undefined {
  const [rich, setRich] = useState(loaded);
  useEffect(() => {
    if (rich) return;
    let isHere = true;
    loadRichEditor().then(
      (module) => isHere && setRich(module),
      () => isHere && onFailure(),
    );
    return () => {
      isHere = false;
    };
  }, []);
  return rich;
}

/**
 * The text of a piece of a page as a note may have it; undefined where nothing of it is formatted, it is more than a note
 * holds, or what reads it cannot be had right now: then its words alone are taken.
 */
export async function formattedOf(html: string): Promise<Text | undefined> {
  try {
    const text = (await loadRichEditor()).textOfHtml(html);
    return typeof text !== 'string' && isText(text) && lengthOfText(text) <= TEXT_MOST ? text : undefined;
  } catch {
    return undefined;
  }
}
