import { kindOf } from '@miradero/core/items';
import {
  type BoardFilePicture,
  type Item,
  isItemKind,
  type Operation,
  type Picture,
} from '@miradero/core/schema';

/** What a picture of a board file is called here, and its size where only a copy of it came. */
export interface PictureHere {
  readonly id: string;
  readonly picture: Picture | undefined;
}
export type PicturesHere = ReadonlyMap<string, PictureHere>;

/** Properties with the ids of pictures as they are here. */
function withOwnIds<P extends object>(properties: P, here: PicturesHere): P {
  const { picture } = properties as { picture?: unknown };
  const own = typeof picture === 'string' ? here.get(picture) : undefined;
  return own ? { ...properties, picture: own.id } : properties;
}

/** An item as it stands here: of its pictures' ids and, where a copy came in their place, of their sizes. */
export function itemHere(
  item: object,
  here: PicturesHere,
  told: ReadonlyMap<string, BoardFilePicture>,
): object {
  const { kind, picture } = item as Partial<Item> & { picture?: unknown };
  const own = withOwnIds(item, here);
  const copy = typeof picture === 'string' ? told.get(picture)?.copy : null;
  const known = typeof picture === 'string' ? here.get(picture)?.picture : undefined;
  if (!copy || !known || !isItemKind(kind)) return own;
  return { ...own, ...kindOf(own as Item).exchanged?.(own as Item, known, false) };
}

/** An operation of a change as it is made here; what is no operation is refused when it is made. */
export function operationHere(
  operation: Operation,
  here: PicturesHere,
  told: ReadonlyMap<string, BoardFilePicture>,
): Operation {
  if (operation === null || typeof operation !== 'object') return operation;
  if ('create' in operation && operation.create !== null && typeof operation.create === 'object')
    return { create: itemHere(operation.create, here, told) as Item };
  if ('set' in operation && operation.set !== null && typeof operation.set === 'object')
    return { ...operation, set: withOwnIds(operation.set, here) };
  return operation;
}
