/** The limit: nothing but one cached frame, moved and scaled. */
const canvas = document.createElement('canvas');
canvas.width = window.innerWidth;
canvas.height = window.innerHeight;
document.querySelector('#root')!.append(canvas);
const context = canvas.getContext('2d', { alpha: false })!;
const cached = new OffscreenCanvas(Math.round(canvas.width * 1.4), Math.round(canvas.height * 1.4));
const painter = cached.getContext('2d')!;
for (let index = 0; index < 4000; index += 1) {
  painter.fillStyle = `hsl(${index * 37} 40% 50%)`;
  painter.fillRect((index * 97) % cached.width, (index * 61) % cached.height, 40, 27);
}
const frame = cached.transferToImageBitmap();
let pending = false;
window.setView = (x, y, scale) => {
  if (pending) return;
  pending = true;
  requestAnimationFrame(() => {
    pending = false;
    const factor = Math.min(2, Math.max(0.72, scale * 8));
    context.drawImage(
      frame,
      -((Math.abs(x) * scale) % 200),
      -((Math.abs(y) * scale) % 150),
      frame.width * factor,
      frame.height * factor,
    );
  });
};
