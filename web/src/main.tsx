import { createRoot } from 'react-dom/client';
import './styles.css';
import { App } from './app/index.ts';

// Libraries that inject <style> elements must carry the nonce of this response.
const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content;
if (nonce) (globalThis as { __webpack_nonce__?: string }).__webpack_nonce__ = nonce;

createRoot(document.getElementById('root')!).render(<App />);
