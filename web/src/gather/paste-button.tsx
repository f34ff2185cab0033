import type { Desk } from '../desk/index.ts';
import { arrive } from './arrive.ts';
import { picturesInHtml } from './pictures-in-html.ts';

/** Pictures on the clipboard, asked for instead of brought by a key. @throws DOMException when the person says no */
async function readClipboard(): Promise<File[]> {
  const files: File[] = [];
  for (const item of await navigator.clipboard.read()) {
    const type = item.types.find((one) => one.startsWith('image/'));
    if (type) {
      const name = `Pasted picture.${type.split('/')[1]!.replace('svg+xml', 'svg')}`;
      files.push(new File([await item.getType(type)], name, { type }));
    } else if (item.types.includes('text/html')) {
      files.push(...picturesInHtml(await (await item.getType('text/html')).text()));
    }
  }
  return files;
}

/** Pastes without a keyboard; pressed by the action of that name. */
export function PasteButton({ desk }: { desk: Desk }) {
  const paste = async () => {
    try {
      const files = await readClipboard();
      const { x, y } = desk.view?.camera.centre ?? { x: 0, y: 0 };
      if (files.length > 0) await arrive(desk, files, { x, y });
      else desk.say('There is no picture on the clipboard.');
    } catch {
      desk.say('The clipboard could not be read.', ['Allow it in the browser, or choose files instead.']);
    }
  };
  return (
    <button
      id="paste-picture"
      type="button"
      className="hidden"
      tabIndex={-1}
      aria-hidden
      onClick={() => void paste()}
    >
      paste
    </button>
  );
}
