import { normalTurn, opacityWithin, sizeAbout } from '@miradero/core/board';
import { heightOf } from '@miradero/core/items';
import type { Item } from '@miradero/core/schema';
import type { Desk } from '../desk/index.ts';
import { NumberField } from '../shell/index.ts';
import { Row } from './label-row.tsx';

/** Larger than this nothing stands on a board, board units. */
const MOST_UNITS = 1_000_000;

/** Where and how something stands, as numbers that can be typed over. */
export function Standing({ desk, item }: { desk: Desk; item: Item }) {
  const set = (values: Readonly<Record<string, unknown>>) =>
    desk.session.commit([{ item: item.id, set: values }]);
  const height = heightOf(item);
  const refuse = (words: string) => desk.say(words);
  const scale = (factor: number) => {
    if (factor > 0) desk.session.commit(sizeAbout([item], item.centre, factor));
  };
  return (
    <>
      <Row name="On the board">
        <NumberField
          label="Width on the board"
          value={item.width}
          least={1}
          most={MOST_UNITS}
          onRefuse={refuse}
          onChange={(to) => scale(to / item.width)}
        />{' '}
        ×{' '}
        <NumberField
          label="Height on the board"
          value={height}
          least={1}
          most={MOST_UNITS}
          onRefuse={refuse}
          onChange={(to) => scale(to / height)}
        />
      </Row>
      <Row name="Turned">
        <NumberField
          label="Turned by degrees"
          value={item.turn}
          digits={1}
          unit="°"
          least={-360}
          most={360}
          onRefuse={refuse}
          onChange={(to) => set({ turn: normalTurn(to) })}
        />
      </Row>
      <Row name="Opacity">
        <NumberField
          label="Opacity in percent"
          value={item.opacity * 100}
          unit={'\u2009%'}
          step={5}
          least={0}
          most={100}
          onRefuse={refuse}
          onChange={(to) => set({ opacity: opacityWithin(to / 100) })}
        />
      </Row>
    </>
  );
}
