import { type RefObject, useEffect, useRef, useState } from 'react';
import { askForScreen, frameOf } from './screen-frame.ts';

/** A still of a screen, a window or a tab that the person chooses, laid into an element. */
export interface FrozenScreen {
  readonly holder: RefObject<HTMLDivElement | null>;
  readonly frame: HTMLCanvasElement | undefined;
  /** Why there is none; '' while there may be. */
  readonly trouble: string;
}

/** @param isAgain - what is shared already is taken, and nobody asked @param className - of the still */
export function useFrozenScreen(isAgain: boolean, className: string): FrozenScreen {
  const [frame, setFrame] = useState<HTMLCanvasElement>();
  const [trouble, setTrouble] = useState('');
  const holder = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let isHere = true;
    askForScreen(isAgain)
      .then(frameOf)
      .then(
        (canvas) => isHere && setFrame(canvas),
        () => isHere && setTrouble('No screen was chosen, or this browser does not hand one out.'),
      );
    return () => {
      isHere = false;
    };
  }, [isAgain]);
  useEffect(() => {
    if (!frame || !holder.current) return;
    frame.className = className;
    holder.current.prepend(frame);
  }, [frame, className]);
  return { holder, frame, trouble };
}
