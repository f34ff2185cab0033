export { arrive } from './arrive.ts';
export { FileChooser } from './file-chooser.tsx';
export { PasteButton } from './paste-button.tsx';
export { useIncoming } from './use-incoming.ts';
