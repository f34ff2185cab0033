export { arrive } from './arrive.ts';
export { FileChooser } from './file-chooser.tsx';
export { useIncoming } from './use-incoming.ts';
