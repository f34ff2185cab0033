export * from './link.ts';
export { makeLinkCard } from './linking.ts';
