import { stopTracks } from '../../shell/index.ts';

/** What gives frames: a camera, or where there is none the simulated one, which shows pictures that ship. */
export interface Camera {
  readonly stream: MediaStream;
  /** Not a real one: said wherever its picture is shown. */
  readonly isSimulated: boolean;
  stop(): void;
}

/** Larger than any camera: the browser gives the most that there is. */
const WANTED = { facingMode: 'environment', width: { ideal: 4096 }, height: { ideal: 3072 } } as const;

export const SIMULATED_SCENES = ['paper', 'lantern'] as const;
export type SimulatedScene = (typeof SIMULATED_SCENES)[number];

/** A camera that ships: a still scene, drawn again and again as a camera would deliver it. */
export async function simulatedCamera(scene: SimulatedScene): Promise<Camera> {
  const picture = new Image();
  picture.src = `/simulated-camera/${scene}.jpg`;
  await picture.decode();
  const canvas = document.createElement('canvas');
  canvas.width = picture.naturalWidth;
  canvas.height = picture.naturalHeight;
  const context = canvas.getContext('2d')!;
  const stream = canvas.captureStream(5);
  const draw = () => context.drawImage(picture, 0, 0);
  draw();
  const timer = setInterval(draw, 200);
  return {
    stream,
    isSimulated: true,
    stop() {
      clearInterval(timer);
      stopTracks(stream);
    },
  };
}

/** The camera of this device, else the simulated one. */
export async function openCamera(): Promise<Camera> {
  try {
    const stream = await navigator.mediaDevices.getUserMedia({ video: WANTED, audio: false });
    return { stream, isSimulated: false, stop: () => stopTracks(stream) };
  } catch {
    return simulatedCamera('paper');
  }
}
