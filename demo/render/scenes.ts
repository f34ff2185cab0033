import { CircleGeometry } from 'three';
import { MeshBuilder, placed } from './mesh.ts';
import { buildFerry, type FerryState } from './models/ferry.ts';
import { figureOf, scaledTo } from './models/figure.ts';
import { headGeometry } from './models/head.ts';
import { buildKnot } from './models/knot.ts';
import { buildLantern, layTable, raiseBackdrop } from './models/lantern.ts';
import { buildMannequin } from './models/mannequin.ts';
import { plantReeds, raiseHorizon, raiseThicket } from './models/marsh.ts';
import { Workshop } from './models/parts.ts';
import { buildReedChannel, buildWinchHouse } from './models/places.ts';
import { POSES } from './models/poses.ts';
import { buildStudy, type Study } from './models/studies.ts';
import { fbm, smooth } from './noise.ts';
import type { Scene } from './scene.ts';

export const MANNEQUIN_M = 0.42;
const MURK = [0.06, 0.062, 0.04] as const;

/** The ferry on the open channel, reeds at a distance all round with two ways out. */
export function ferryScene(state: FerryState = {}): Scene {
  const shop = new Workshop(new MeshBuilder());
  buildFerry(shop, state);
  plantReeds(
    shop,
    (x, z) => {
      const away = Math.hypot(x, z);
      const edge =
        22.5 + 5 * (fbm(x * 0.09, 4, z * 0.09, 3) - 0.5) + 9 * smooth(6, 1.5, Math.abs(z + x * 0.2));
      return smooth(edge, edge + 1, away) * smooth(31, 27, away);
    },
    32,
    0.3,
  );
  raiseHorizon(shop, [
    [46, 2.6],
    [72, 2.8],
    [120, 3.2],
    [230, 5],
    [420, 11],
  ]);
  return { mesh: shop.mesh.build(), water: { waves: 0.035, murk: MURK } };
}

/** The storm lantern alone on a round table, the table turned under it by nothing. */
export function lanternScene(): Scene {
  const shop = new Workshop(new MeshBuilder());
  layTable(shop, 0.62);
  raiseBackdrop(shop, 2.6, 5);
  buildLantern(shop);
  return { mesh: shop.mesh.build() };
}

/** The sculpted head on its plinth, before a wall that runs all round. */
export function headScene(): Scene {
  const shop = new Workshop(new MeshBuilder());
  shop.add(headGeometry(0.0013), 'clay', placed(0, 0, 0));
  shop.box('tableWood', [0, -0.712, -0.02], [0.2, 1, 0.15], [0, 0, 0], 0.004);
  raiseBackdrop(shop, 1.9, 4);
  shop.add(new CircleGeometry(2, 64), 'backdrop', placed(0, -1.1, 0, { turnDeg: [-90, 0, 0] }));
  return { mesh: shop.mesh.build() };
}

/** The jointed mannequin, 0.42 m tall, on a table top. */
export function mannequinScene({ pose }: State): Scene {
  const shop = new Workshop(new MeshBuilder());
  layTable(shop, 1.35);
  raiseBackdrop(shop, 2.4, 5);
  const wanted = POSES.find(({ name }) => name === pose);
  if (!wanted) throw new Error(`there is no pose "${pose}"`);
  buildMannequin(shop.within(scaledTo(MANNEQUIN_M)), figureOf(wanted));
  if (wanted.sits) shop.box('beech', [0, 0.046, -0.026], [0.12, 0.092, 0.1], [0, 0, 0], 0.002);
  return { mesh: shop.mesh.build() };
}

export function winchHouseScene(): Scene {
  const shop = new Workshop(new MeshBuilder());
  buildWinchHouse(shop);
  return { mesh: shop.mesh.build(), water: { waves: 0.02, murk: MURK } };
}

export function reedChannelScene(): Scene {
  const shop = new Workshop(new MeshBuilder());
  buildReedChannel(shop);
  return { mesh: shop.mesh.build(), water: { waves: 0.009, murk: MURK } };
}

/** Open water under the sky, the far shore low. */
export function openWaterScene(): Scene {
  const shop = new Workshop(new MeshBuilder());
  raiseThicket(shop, 60, 2.4, (x, z) => smooth(0.3, 0.5, fbm(x * 0.03, 2, z * 0.03, 3)));
  raiseHorizon(shop, [
    [95, 2.8],
    [170, 3.6],
    [340, 7],
    [600, 14],
  ]);
  return { mesh: shop.mesh.build(), water: { waves: 0.045, murk: MURK } };
}

export function studyScene({ study }: State): Scene {
  const shop = new Workshop(new MeshBuilder());
  buildStudy(shop, study as Study);
  return { mesh: shop.mesh.build() };
}

export function knotScene({ frame }: State): Scene {
  const shop = new Workshop(new MeshBuilder());
  raiseBackdrop(shop, 2.6, 5);
  buildKnot(shop, Number(frame));
  return { mesh: shop.mesh.build() };
}

/** The wheel at work: as much of the ferry as its clip shows. */
export function wheelScene({ wheelDeg }: State): Scene {
  const shop = new Workshop(new MeshBuilder());
  buildFerry(shop, { wheelDeg: Number(wheelDeg) });
  raiseThicket(shop, 24, 2.7, () => 1);
  raiseHorizon(shop, [
    [46, 3],
    [120, 4.5],
  ]);
  return { mesh: shop.mesh.build(), water: { waves: 0.03, murk: MURK } };
}

const SCENES = {
  winchHouse: winchHouseScene,
  reedChannel: reedChannelScene,
  openWater: openWaterScene,
  study: studyScene,
  knot: knotScene,
  wheel: wheelScene,
  mannequin: mannequinScene,
  lantern: lanternScene,
  head: headScene,
  ferry: (state: State) => ferryScene(state as FerryState),
};

type State = Readonly<Record<string, number | string>>;
export type SceneName = keyof typeof SCENES;

export const sceneOf = (name: SceneName, state: State = {}): Scene => SCENES[name](state);
