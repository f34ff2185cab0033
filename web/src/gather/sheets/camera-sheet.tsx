import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { frameOf, Sheet } from '../../shell/index.ts';
import type { BroughtFile } from '../reading/brought.ts';
import { type Camera, openCamera, SIMULATED_SCENES, simulatedCamera } from './camera.ts';
import { PaperStep } from './paper-step.tsx';
import { StepFooter } from './step-footer.tsx';

const QUALITY = 0.94;

function photoOf(canvas: HTMLCanvasElement): Promise<File> {
  return new Promise((resolve, reject) => {
    canvas.toBlob(
      (blob) =>
        blob
          ? resolve(new File([blob], 'photo.jpg', { type: 'image/jpeg' }))
          : reject(new Error('the photograph could not be made')),
      'image/jpeg',
      QUALITY,
    );
  });
}

function Viewfinder({ camera }: { camera: Camera }) {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    if (video.current) video.current.srcObject = camera.stream;
  }, [camera]);
  return (
    <video
      ref={video}
      autoPlay
      muted
      playsInline
      aria-label="What the camera sees"
      className="max-h-[60vh] w-full bg-[#1d1d1b] object-contain"
    />
  );
}

/** A still from a camera; a sketch on paper is squared and whitened before it comes in. */
export function CameraSheet({
  onTake,
  onClose,
}: {
  onTake: (file: BroughtFile) => void;
  onClose: () => void;
}) {
  const [camera, setCamera] = useState<Camera>();
  const [photo, setPhoto] = useState<HTMLCanvasElement>();
  const [isPaper, setPaper] = useState(false);
  const running = useRef<Camera | undefined>(undefined);
  useEffect(() => {
    let isHere = true;
    const use = (next: Camera) => {
      if (!isHere) next.stop();
      else {
        running.current = next;
        setCamera(next);
      }
    };
    void openCamera().then(use);
    return () => {
      isHere = false;
      running.current?.stop();
    };
  }, []);
  const show = async (scene: (typeof SIMULATED_SCENES)[number]) => {
    running.current?.stop();
    running.current = await simulatedCamera(scene);
    setCamera(running.current);
  };
  const take = (one: BroughtFile) => {
    onClose();
    onTake(one);
  };
  const snap = async () => {
    if (camera) setPhoto(await frameOf(camera.stream));
  };
  return (
    <Sheet onClose={onClose} className="w-[min(760px,94vw)] px-5 py-4">
      <Dialog.Title className="mb-3 font-serif text-[22px]">
        {photo && isPaper ? 'A sketch on paper' : 'Camera'}
      </Dialog.Title>
      {!photo && camera && (
        <>
          <Viewfinder camera={camera} />
          {camera.isSimulated && (
            <p className="mt-2 text-[13px] text-muted">
              No camera is here: this is a simulated one.{' '}
              {SIMULATED_SCENES.map((scene) => (
                <button
                  key={scene}
                  type="button"
                  className="mr-3 underline underline-offset-3"
                  onClick={() => void show(scene)}
                >
                  {scene}
                </button>
              ))}
            </p>
          )}
          <footer className="mt-3 flex flex-wrap items-center justify-end gap-4">
            <Dialog.Close className="mr-auto px-2 py-1 text-muted underline underline-offset-3">
              Leave
            </Dialog.Close>
            <button
              type="button"
              className="border border-line px-3 py-1"
              onClick={() => {
                setPaper(true);
                void snap();
              }}
            >
              Sketch on paper
            </button>
            <button
              type="button"
              className="border border-ink bg-ink px-3 py-1 text-paper"
              onClick={() => {
                setPaper(false);
                void snap();
              }}
            >
              Photograph
            </button>
          </footer>
        </>
      )}
      {photo && isPaper && <PaperStep photo={photo} onBack={() => setPhoto(undefined)} onTake={take} />}
      {photo && !isPaper && (
        <StillStep
          photo={photo}
          onBack={() => setPhoto(undefined)}
          onTake={async () => take({ kind: 'file', file: await photoOf(photo) })}
        />
      )}
    </Sheet>
  );
}

function StillStep({
  photo,
  onBack,
  onTake,
}: {
  photo: HTMLCanvasElement;
  onBack: () => void;
  onTake: () => Promise<void>;
}) {
  const holder = useRef<HTMLDivElement>(null);
  useEffect(() => {
    photo.className = 'block max-h-[60vh] max-w-full';
    holder.current?.replaceChildren(photo);
  }, [photo]);
  return (
    <>
      <div ref={holder} className="grid place-items-center bg-[#797979]" />
      <StepFooter words="Take it" onBack={onBack} onTake={onTake} />
    </>
  );
}
