import { useEffect } from 'react';
import type { Desk } from '../desk/index.ts';
import { isTyping } from '../shell/index.ts';
import { arrive } from './arrive.ts';
import { picturesInHtml } from './pictures-in-html.ts';

/** Clipboards call every picture the same; a name of their own tells them from files. */
const isUnnamed = (file: File) => /^image\.(png|jpe?g|webp)$/i.test(file.name);
const named = (file: File): File =>
  isUnnamed(file)
    ? new File([file], `Pasted picture.${file.name.split('.').pop()}`, { type: file.type })
    : file;

const NOTHING = 'Nothing in it can be taken in: pictures can, as files.';

/** Pictures that are pasted or dropped anywhere on the page come onto the board. */
export function useIncoming(desk: Desk): void {
  useEffect(() => {
    const ending = new AbortController();
    const options = { signal: ending.signal };
    const middle = () => desk.view?.camera.centre ?? { x: 0, y: 0 };

    const onPaste = (event: ClipboardEvent) => {
      // The clipboard can be read during the event alone.
      const files = [...(event.clipboardData?.files ?? [])];
      const html = event.clipboardData?.getData('text/html') ?? '';
      if (isTyping(event) && files.length === 0) return;
      event.preventDefault();
      const at = desk.pointer ?? middle();
      const found = files.length > 0 ? files.map(named) : picturesInHtml(html);
      if (found.length > 0) void arrive(desk, found, at);
      else desk.say('There is no picture on the clipboard.');
    };
    const onOver = (event: DragEvent) => {
      event.preventDefault();
      if (event.dataTransfer) event.dataTransfer.dropEffect = 'copy';
    };
    const onDrop = (event: DragEvent) => {
      event.preventDefault();
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length === 0) {
        desk.say(NOTHING);
        return;
      }
      const isOnStage = (event.target as Node).nodeName === 'CANVAS';
      const point = isOnStage && desk.view ? desk.view.toBoard(desk.view.pointOf(event)) : middle();
      void arrive(desk, files, point);
    };
    window.addEventListener('paste', onPaste, options);
    window.addEventListener('dragover', onOver, options);
    window.addEventListener('drop', onDrop, options);
    return () => ending.abort();
  }, [desk]);
}
