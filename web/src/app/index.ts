export { App } from './app.tsx';
