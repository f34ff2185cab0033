import { type ComponentType, useEffect, useState } from 'react';

/** Loads the page anew once the server answers: what a browser could not fetch once it does not ask for again. */
async function loadAnew(): Promise<boolean> {
  // Whatever it answers, it is there.
  const isThere = await fetch('/api/health').then(
    () => true,
    () => false,
  );
  if (isThere) window.location.reload();
  return isThere;
}

/**
 * A part of the interface that is fetched when it is first shown. Where it does not come it says so in its place: with
 * `lazy` the whole page would go.
 *
 * @param Waiting - stands in its place until it is there; nothing by default
 * @param isSheet - it has no place of its own: what is said of it stands above the page
 */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
  { Waiting = () => null, isSheet = false }: { Waiting?: ComponentType<P>; isSheet?: boolean } = {},
): ComponentType<P> {
  let known: ComponentType<P> | undefined;
  return function Later(props: P) {
    const [Part, setPart] = useState(() => known);
    const [isMissing, setMissing] = useState(false);
    useEffect(() => {
      if (Part) return;
      let isHere = true;
      load().then(
        (part) => {
          known = part;
          if (isHere) setPart(() => part);
        },
        () => isHere && setMissing(true),
      );
      return () => {
        isHere = false;
      };
    }, [Part]);
    if (Part) return <Part {...props} />;
    return isMissing ? <Missing isSheet={isSheet} /> : <Waiting {...props} />;
  };
}

function Missing({ isSheet }: { isSheet: boolean }) {
  const [isAway, setAway] = useState(true);
  return (
    <p
      role="alert"
      className={`border border-line bg-raised px-3 py-2 text-[13px] text-ink ${isSheet ? 'fixed bottom-14 left-[46px] z-40 mr-3' : ''}`}
    >
      {isAway ? 'This does not come: the server is away. Once it is back, ' : 'The server is still away. '}
      <button
        type="button"
        className="underline underline-offset-3"
        onClick={() => void loadAnew().then((isThere) => !isThere && setAway(false))}
      >
        load the page anew
      </button>
    </p>
  );
}
