import { Application, Container, Sprite, Texture } from 'pixi.js';
import { fetchScene, loadBitmaps, PLACEMENT } from './scene.ts';

const scene = await fetchScene();
const bitmaps = await loadBitmaps(scene);
const { innerWidth, innerHeight } = window;
const app = new Application();
await app.init({ width: innerWidth, height: innerHeight, background: '#797979', preference: 'webgl' });
document.querySelector('#root')!.append(app.canvas);
const textures = bitmaps.map((bitmap) => Texture.from(bitmap));
const board = new Container({ isRenderGroup: true });
for (const [x, y, image] of scene.placements) {
  const sprite = new Sprite(textures[image]!);
  sprite.setSize(PLACEMENT.width, PLACEMENT.height);
  sprite.position.set(x - PLACEMENT.width / 2, y - PLACEMENT.height / 2);
  board.addChild(sprite);
}
app.stage.addChild(board);
window.setView = (x, y, scale) => {
  board.scale.set(scale);
  board.position.set(innerWidth / 2 - x * scale, innerHeight / 2 - y * scale);
};
