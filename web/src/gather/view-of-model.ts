import {
  AmbientLight,
  Box3,
  Color,
  DirectionalLight,
  type Object3D,
  PerspectiveCamera,
  Scene,
  Sphere,
  SRGBColorSpace,
  Vector3,
  WebGLRenderer,
} from 'three';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';

const FIELD_DEG = 32;
/** From above, and from the side: three faces of a thing say more than one. */
const FROM = new Vector3(0.62, 0.36, 0.7).normalize();
/** Value 5 of 10, the surround. */
const GROUND = '#797979';

function lit(model: Object3D): Scene {
  const scene = new Scene();
  scene.background = new Color(GROUND);
  const main = new DirectionalLight('#ffffff', 2.6);
  main.position.set(-0.6, 1, 0.7);
  scene.add(main, new AmbientLight('#ffffff', 0.9), model);
  return scene;
}

/** Draws a model once, whole in view. @throws Error when it cannot be read */
export async function viewOfModel(
  bytes: ArrayBuffer,
  { width, height }: { width: number; height: number },
): Promise<HTMLCanvasElement> {
  const { scene: model } = await new GLTFLoader().parseAsync(bytes, '');
  const bounds = new Box3().setFromObject(model).getBoundingSphere(new Sphere());
  if (!(bounds.radius > 0 && Number.isFinite(bounds.radius))) throw new Error('the model has no form');
  const camera = new PerspectiveCamera(FIELD_DEG, width / height);
  const distance = bounds.radius / Math.sin((FIELD_DEG * Math.PI) / 360);
  camera.position.copy(bounds.center).addScaledVector(FROM, distance * 1.02);
  camera.near = distance / 100;
  camera.far = distance * 3;
  camera.updateProjectionMatrix();
  camera.lookAt(bounds.center);
  const renderer = new WebGLRenderer({ antialias: true, preserveDrawingBuffer: true });
  try {
    renderer.outputColorSpace = SRGBColorSpace;
    renderer.setSize(width, height, false);
    renderer.render(lit(model), camera);
    const canvas = document.createElement('canvas');
    canvas.width = width;
    canvas.height = height;
    canvas.getContext('2d')!.drawImage(renderer.domElement, 0, 0);
    return canvas;
  } finally {
    renderer.dispose();
    renderer.forceContextLoss();
  }
}
