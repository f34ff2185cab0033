export { SettingsPage } from './settings-page.tsx';
