import { type FrameReader, UnreadableError } from './reader.ts';

/** How long a frame stands that says nothing, as browsers do it: µs. */
const UNSAID_US = 100_000;

/** Reads the frames of an animated picture: GIF, WebP, APNG, AVIF. */
export async function readAnimation(bytes: ArrayBuffer, type: string): Promise<FrameReader> {
  if (!(await ImageDecoder.isTypeSupported(type)))
    throw new UnreadableError('This browser cannot play pictures of this kind.');
  const decoder = new ImageDecoder({ data: bytes, type, preferAnimation: true });
  await decoder.tracks.ready;
  // Before all of it is here the count of frames is not to be trusted.
  await decoder.completed;
  const track = decoder.tracks.selectedTrack;
  const count = track?.frameCount ?? 0;
  if (count === 0) throw new UnreadableError('No frame of it can be read.');
  const startsUs: number[] = [];
  let [durationUs, width, height] = [0, 0, 0];
  for (let frameIndex = 0; frameIndex < count; frameIndex += 1) {
    const { image } = await decoder.decode({ frameIndex });
    startsUs.push(durationUs);
    durationUs += image.duration || UNSAID_US;
    width = image.displayWidth;
    height = image.displayHeight;
    image.close();
  }
  return {
    ...{ times: { startsUs, durationUs }, width, height },
    read: async (frameIndex) => (await decoder.decode({ frameIndex })).image,
    close: () => decoder.close(),
  };
}
