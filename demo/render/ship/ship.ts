import { parseArgs } from 'node:util';
import { shipCamera } from './camera.ts';
import { shipCopies } from './copies.ts';
import { shipDrawings } from './drawings.ts';
import { shipInProgress } from './in-progress.ts';
import { shipModel } from './model.ts';
import { shipMotion } from './motion.ts';
import { shipPictures } from './pictures.ts';
import { shipWorld } from './world.ts';

/** Makes the shipped files and their truth out of the masters: `ship.ts [--only text] [--stills]`. */
const { values } = parseArgs({
  options: { only: { type: 'string', default: '' }, stills: { type: 'boolean', default: false } },
});
const missing = await shipPictures(new RegExp(values.only));
if (missing.length > 0) console.log(`not rendered yet: ${missing.join(', ')}`);
if (!values.stills) {
  await shipDrawings();
  await shipModel();
  await shipInProgress();
  await shipCopies();
  await shipWorld();
  await shipMotion();
  await shipCamera();
}
