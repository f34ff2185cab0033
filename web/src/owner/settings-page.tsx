import { useEffect, useRef } from 'react';
import { GatherLine, GatherRoom } from '../gather/index.ts';
import { Lintel, useSync, useTheme } from '../shell/index.ts';
import { useStore } from '../state/index.ts';
import { bookmarkFor, newClipKey } from './bookmark.ts';
import { PlacesToLook } from './places-to-look.tsx';

/** React does not write addresses that are scripts; this one is meant to be dragged away, not pressed. */
function Bookmark({ clipKey }: { clipKey: string }) {
  const link = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    link.current?.setAttribute('href', bookmarkFor(location.origin, clipKey));
  }, [clipKey]);
  return (
    // Pressed here it does nothing: our own policy runs no script of an address.
    <a
      ref={link}
      href="/clip"
      data-testid="bookmark"
      className="inline-block border border-ink px-3 py-1.5 font-serif text-[16px]"
    >
      Clip to Miradero
    </a>
  );
}

/** What a person sets once. */
export function SettingsPage() {
  useTheme(undefined);
  const { settings } = useSync();
  const { positions = false, clipKey } = useStore(settings.store);
  useEffect(() => {
    document.title = 'Settings · Miradero';
  }, []);
  return (
    <main className="flex h-full flex-col">
      <Lintel status={<GatherLine />} />
      <GatherRoom />
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="mx-auto max-w-2xl px-6 py-9">
          <h1 className="mb-7 font-serif text-[34px] leading-none tracking-[-0.015em]">Settings</h1>
          <section className="border-line border-t py-5">
            <h2 className="font-serif text-[20px]">Clip from any page</h2>
            <p className="mt-1 max-w-lg text-muted">
              Drag this to the bar of bookmarks. Pressed on a page or a picture, it opens Miradero with what
              is there.
            </p>
            <div className="mt-3 flex flex-wrap items-center gap-4">
              {clipKey ? (
                <>
                  <Bookmark clipKey={clipKey} />
                  <button
                    type="button"
                    className="text-[13px] underline underline-offset-3"
                    onClick={() => void navigator.clipboard.writeText(bookmarkFor(location.origin, clipKey))}
                  >
                    copy its address
                  </button>
                  <button
                    type="button"
                    className="text-[13px] text-muted underline underline-offset-3"
                    onClick={() => void settings.set({ clipKey: newClipKey() })}
                  >
                    make a new one; the old one stops working
                  </button>
                </>
              ) : (
                <button
                  type="button"
                  className="border border-line bg-raised px-3 py-1.5"
                  onClick={() => void settings.set({ clipKey: newClipKey() })}
                >
                  Make the bookmark
                </button>
              )}
            </div>
          </section>
          <PlacesToLook />
          <section className="border-line border-t py-5">
            <h2 className="font-serif text-[20px]">Where photographs were taken</h2>
            <label className="mt-2 flex max-w-lg items-start gap-2.5">
              <input
                type="checkbox"
                className="mt-1"
                checked={positions}
                onChange={(event) => void settings.set({ positions: event.target.checked })}
              />
              <span>
                Read the position from what comes in from now on
                <span className="block text-[13px] text-muted">
                  Without this it is neither read nor shown. The file itself stays as it came, whatever it
                  holds.
                </span>
              </span>
            </label>
          </section>
        </div>
      </div>
    </main>
  );
}
