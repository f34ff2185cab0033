import { INTAKE_TYPES } from '@miradero/core/picture';
import type { Desk } from '../desk/index.ts';
import { arrive } from './arrive.ts';

/** The system's own way to choose files; opened by the action of that name. */
export function FileChooser({ desk }: { desk: Desk }) {
  return (
    <input
      id="choose-files"
      type="file"
      multiple
      accept={`${INTAKE_TYPES.join()},.heic,.heif,.tif,.tiff`}
      className="hidden"
      tabIndex={-1}
      aria-hidden
      onChange={(event) => {
        const files = [...(event.target.files ?? [])];
        event.target.value = '';
        if (files.length > 0) void arrive(desk, files, desk.view?.camera.centre ?? { x: 0, y: 0 });
      }}
    />
  );
}
