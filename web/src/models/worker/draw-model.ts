import {
  boxAround,
  cameraOf,
  lightTowards,
  type ModelBox,
  type ModelView,
  middleOf,
  radiusOf,
  type Stance,
  standingPoints,
} from '@miradero/core/model';
import {
  BackSide,
  type BufferGeometry,
  Color,
  DirectionalLight,
  Group,
  HemisphereLight,
  type Material,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  type Object3D,
  OrthographicCamera,
  PCFShadowMap,
  PerspectiveCamera,
  Plane,
  Scene,
  SRGBColorSpace,
  Vector3,
  WebGLRenderer,
} from 'three';
import type { PictureOfModel } from '../messages.ts';
import { Coarser } from './coarser.ts';
import { type LoadedModel, ModelError } from './read-model.ts';

/** Value 5 of 10, the surround. */
const GROUND = '#797979';
/** A little lighter than middle grey, so that light and shadow both have room. */
const PLAIN = '#b0b0b0';
/** What a section lays open, seen from inside. */
const CUT = '#b4532f';
/** A section goes so far over a model, of its extent. */
const BEYOND = 1.002;
const SHADOW_PX = 2_048;

/** What takes longer to be drawn is drawn with about so many triangles while a hand turns it. */
const HELD_MS = 50;
const HELD_TRIANGLES = 16_000;

const NO_3D = 'This browser draws nothing in 3D here: it is switched off, or the graphics driver is missing.';

let renderer: WebGLRenderer | undefined;

/** The one 3D context of this window. @throws ModelError where there is none */
function context(): WebGLRenderer {
  if (renderer && !renderer.getContext().isContextLost()) return renderer;
  try {
    const canvas = new OffscreenCanvas(16, 16);
    renderer = new WebGLRenderer({ canvas, antialias: true });
  } catch {
    throw new ModelError(NO_3D);
  }
  renderer.outputColorSpace = SRGBColorSpace;
  renderer.localClippingEnabled = true;
  renderer.shadowMap.enabled = true;
  renderer.shadowMap.type = PCFShadowMap;
  return renderer;
}

/** Turns a model so that its up is up and its front in front. */
const standing = ({ up, frontDeg }: Stance): Matrix4 =>
  new Matrix4()
    .makeRotationY((-frontDeg * Math.PI) / 180)
    .multiply(new Matrix4().makeRotationX(up === 'z' ? -Math.PI / 2 : 0));

/** One mesh of a model, and what it is drawn with. */
interface Part {
  readonly mesh: Mesh;
  readonly inside: Mesh;
  readonly own: Material | Material[];
  readonly fine: BufferGeometry;
  coarse: BufferGeometry | undefined;
}

/** A model ready to be drawn, with what lights it. Its own materials stay with it. */
export class DrawnModel {
  readonly #model: LoadedModel;
  readonly #scene = new Scene();
  readonly #holder = new Group();
  readonly #light = new DirectionalLight('#ffffff', 2.45);
  readonly #plain = new MeshLambertMaterial({ color: PLAIN });
  readonly #cut = new MeshBasicMaterial({ color: CUT, side: BackSide });
  readonly #parts: Part[] = [];
  /** The same meshes once more, seen from inside: what a section lays open. */
  readonly #inside = new Group();
  #isCoarse = false;
  /** ms that it took to be drawn in full. */
  #tookMs = 0;

  constructor(model: LoadedModel) {
    this.#model = model;
    this.#scene.background = new Color(GROUND);
    this.#light.castShadow = true;
    this.#light.shadow.mapSize.set(SHADOW_PX, SHADOW_PX);
    this.#holder.matrixAutoUpdate = false;
    this.#holder.add(model.object, this.#inside);
    this.#scene.add(
      this.#holder,
      this.#light,
      this.#light.target,
      new HemisphereLight('#ffffff', '#8a8a8a', 0.69),
    );
    model.object.traverse((one) => {
      if (!(one instanceof Mesh)) return;
      one.castShadow = true;
      one.receiveShadow = true;
      one.frustumCulled = false;
      const inside = new Mesh(one.geometry, this.#cut);
      inside.matrixAutoUpdate = false;
      inside.matrix.copy(one.matrixWorld);
      inside.frustumCulled = false;
      this.#inside.add(inside);
      const own = one.material as Material | Material[];
      this.#parts.push({ mesh: one, inside, own, fine: one.geometry, coarse: undefined });
    });
  }

  #dress({ isPlain, section }: ModelView, planes: Plane[]): void {
    this.#inside.visible = section !== undefined;
    this.#cut.clippingPlanes = planes;
    for (const { mesh, own } of this.#parts) {
      mesh.material = isPlain || !this.#model.hasSurface ? this.#plain : own;
      for (const material of [mesh.material].flat()) {
        material.clippingPlanes = planes;
        material.clipShadows = true;
        // Open, only its outside is seen in its own colours; closed, both sides of a sheet are.
        material.side = section ? 0 : 2;
      }
    }
  }

  /** Where drawing it takes long, a hand turns a coarser one without shadows. */
  #lighten(isHeld: boolean): void {
    const isCoarse = isHeld && this.#tookMs > HELD_MS;
    if (isCoarse === this.#isCoarse) return;
    this.#isCoarse = isCoarse;
    this.#light.castShadow = !isCoarse;
    const coarser = new Coarser(Math.min(1, HELD_TRIANGLES / this.#model.shown));
    for (const part of this.#parts) {
      if (isCoarse) part.coarse ??= this.#model.shown > HELD_TRIANGLES ? coarser.of(part.fine) : part.fine;
      const geometry = isCoarse ? part.coarse! : part.fine;
      part.mesh.geometry = geometry;
      part.inside.geometry = geometry;
    }
  }

  /** Tells how long it took to be drawn, up to where it is seen. */
  took(ms: number): void {
    if (this.#isCoarse) return;
    // The first time is longer: what it is drawn with is made.
    this.#tookMs = this.#tookMs === 0 ? 1 : ms;
  }

  #lit(view: ModelView, box: ModelBox): void {
    const radius = radiusOf(box);
    const middle = new Vector3(...middleOf(box));
    const { target, shadow } = this.#light;
    target.position.copy(middle);
    this.#light.position.copy(middle).addScaledVector(new Vector3(...lightTowards(view)), radius * 3);
    const { camera } = shadow;
    Object.assign(camera, { left: -radius, right: radius, top: radius, bottom: -radius });
    Object.assign(camera, { near: radius, far: radius * 5 });
    camera.updateProjectionMatrix();
    shadow.normalBias = (radius * 4) / SHADOW_PX;
    shadow.bias = -0.0005;
  }

  /** Draws it onto the canvas of the context. @throws ModelError where nothing can be drawn */
  draw({ view, stance, width, height, isHeld = false }: PictureOfModel): OffscreenCanvas {
    const gl = context();
    const most = gl.capabilities.maxTextureSize;
    if (width > most || height > most)
      throw new ModelError(`No more than ${most} pixels can be drawn along a side.`);
    this.#lighten(isHeld);
    const box = boxAround(standingPoints(this.#model.points, stance));
    this.#holder.matrix.copy(standing(stance));
    this.#holder.updateMatrixWorld(true);
    this.#dress(view, planesOf(view, box));
    this.#lit(view, box);
    gl.setSize(width, height, false);
    gl.render(this.#scene, threeCamera(view, box, width, height));
    return gl.domElement as unknown as OffscreenCanvas;
  }

  close(): void {
    this.#plain.dispose();
    this.#cut.dispose();
    for (const { own, fine, coarse } of this.#parts) {
      fine.dispose();
      coarse?.dispose();
      for (const material of [own].flat()) disposeWithPictures(material);
    }
    this.#light.dispose();
  }
}

function disposeWithPictures(material: Material): void {
  for (const value of Object.values(material) as unknown[])
    if (typeof value === 'object' && value !== null && 'isTexture' in value)
      (value as unknown as { dispose(): void }).dispose();
  material.dispose();
}

/** The plane of a section; none where nothing is cut. What it points to is kept. */
function planesOf({ section }: ModelView, { min, max }: ModelBox): Plane[] {
  if (!section) return [];
  const axis = { x: 0, y: 1, z: 2 }[section.axis];
  // From just before it to just behind it: at the ends all of it is on one side.
  const at = (min[axis]! + max[axis]!) / 2 + (max[axis]! - min[axis]!) * BEYOND * (section.at - 0.5);
  const normal = new Vector3().setComponent(axis, section.isOther ? 1 : -1);
  return [new Plane(normal, section.isOther ? -at : at)];
}

function threeCamera(
  view: ModelView,
  box: ModelBox,
  width: number,
  height: number,
): Object3D & PerspectiveCamera {
  const place = cameraOf(view, box, width, height);
  const { near, far, verticalDeg, halfHeight } = place;
  const halfWidth = (halfHeight * width) / height;
  const camera =
    verticalDeg === null
      ? new OrthographicCamera(-halfWidth, halfWidth, halfHeight, -halfHeight, near, far)
      : new PerspectiveCamera(verticalDeg, width / height, near, far);
  camera.position.set(...place.position);
  camera.up.set(...place.up);
  camera.lookAt(...place.target);
  camera.updateMatrixWorld();
  return camera as PerspectiveCamera;
}
