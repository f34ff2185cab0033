import Konva from 'konva';
import { fetchScene, loadBitmaps, PLACEMENT } from './scene.ts';

const scene = await fetchScene();
const bitmaps = await loadBitmaps(scene);
const { innerWidth, innerHeight } = window;
const stage = new Konva.Stage({ container: 'root', width: innerWidth, height: innerHeight });
const layer = new Konva.Layer({ listening: false });
for (const [x, y, image] of scene.placements) {
  layer.add(
    new Konva.Image({
      image: bitmaps[image]!,
      x: x - PLACEMENT.width / 2,
      y: y - PLACEMENT.height / 2,
      ...PLACEMENT,
      perfectDrawEnabled: false,
      listening: false,
    }),
  );
}
stage.add(layer);
window.setView = (x, y, scale) => {
  layer.scale({ x: scale, y: scale });
  layer.position({ x: innerWidth / 2 - x * scale, y: innerHeight / 2 - y * scale });
  layer.batchDraw();
};
