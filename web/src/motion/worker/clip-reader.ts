import {
  EncodedPacketSink,
  Input,
  MATROSKA,
  MP4,
  QTFF,
  UrlSource,
  type VideoSample,
  VideoSampleSink,
  WEBM,
} from 'mediabunny';
import { type FrameReader, MOST_FRAMES, UnreadableError } from './reader.ts';

const US = 1_000_000;

/**
 * Reads the frames of a clip, exactly: which there are and when each is shown the container tells; they are decoded from the
 * last key frame on. A `<video>` seeks to somewhere near.
 */
export async function readClip(address: string): Promise<FrameReader> {
  const input = new Input({ formats: [MP4, QTFF, WEBM, MATROSKA], source: new UrlSource(address) });
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new UnreadableError('There are no moving pictures in it.');
  if (!(await track.canDecode())) {
    const { codec } = track;
    throw new UnreadableError(`This browser cannot play what it holds${codec ? ` (${codec})` : ''}.`);
  }
  /** When each frame is shown and for how long, s. */
  const shown: { readonly at: number; readonly duration: number }[] = [];
  for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, {
    metadataOnly: true,
  })) {
    shown.push({ at: packet.timestamp, duration: packet.duration });
    if (shown.length > MOST_FRAMES) throw new UnreadableError('It has too many frames to be played here.');
  }
  // They come as they are decoded: some are shown before others that come first.
  shown.sort((one, other) => one.at - other.at);
  const [first, last] = [shown[0], shown.at(-1)];
  if (!first || !last) throw new UnreadableError('No frame of it can be read.');
  const startsUs = shown.map(({ at }) => Math.round((at - first.at) * US));
  const durationUs = Math.round((last.at + last.duration - first.at) * US);

  const sink = new VideoSampleSink(track);
  let samples: AsyncGenerator<VideoSample, void, unknown> | undefined;
  let next = -1;
  const restart = async (frame: number) => {
    await samples?.return();
    samples = sink.samples(shown[frame]!.at);
    next = frame;
  };
  return {
    ...{ times: { startsUs, durationUs }, width: track.displayWidth, height: track.displayHeight },
    async read(frame) {
      if (frame !== next) await restart(frame);
      for (;;) {
        const { value: sample } = (await samples!.next()) as IteratorResult<VideoSample, undefined>;
        if (!sample) throw new UnreadableError(`Frame ${frame + 1} of it cannot be read.`);
        const isBefore = sample.timestamp < shown[frame]!.at - 1 / US;
        if (isBefore) {
          sample.close();
          continue;
        }
        next = frame + 1;
        const image = sample.toVideoFrame();
        sample.close();
        return image;
      }
    },
    close() {
      void samples?.return();
      input.dispose();
    },
  };
}
