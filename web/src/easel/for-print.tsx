import { faultOfNeed, faultOfSheet, pixelsOfSheet, setupOfPixels, setupWords } from '@miradero/core/easel';
import { layOfSheet, type SheetItem } from '@miradero/core/items';
import { type FormEvent, useState } from 'react';
import type { Desk } from '../desk/index.ts';
import { SheetFooter } from '../shell/index.ts';
import { LengthField } from './length-field.tsx';
import { NeedFields } from './need-fields.tsx';
import { PlanFigures, type SheetPlan } from './setup-fields.tsx';

/** What a sheet is printed like: its resolution, its bleed, and the print it must be good for. Its pixels stay. */
export function ForPrint({ desk, sheet, onClose }: { desk: Desk; sheet: SheetItem; onClose: () => void }) {
  const { trimmed } = pixelsOfSheet(sheet.setup);
  const [{ setup, need }, setPlan] = useState<SheetPlan>(sheet);
  const fault = faultOfSheet(setup) ?? faultOfNeed(need);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (fault) return;
    desk.session.commit([{ item: sheet.id, set: { ...layOfSheet(setup), need } }]);
    onClose();
  };
  return (
    <form onSubmit={submit}>
      <div className="mt-3 flex items-baseline gap-x-3 text-[13px]">
        <LengthField
          label="Resolution"
          value={setup.ppi}
          onChange={(ppi) =>
            setPlan({ setup: ppi > 0 ? setupOfPixels({ ...setup, ppi }, trimmed) : { ...setup, ppi }, need })
          }
        />
        <span className="text-muted">pixels an inch: its pixels stay, {setupWords(setup)}</span>
      </div>
      <div className="mt-2 flex items-baseline gap-x-3 text-[13px]">
        <LengthField
          label="Bleed"
          value={setup.bleed}
          onChange={(bleed) => setPlan({ setup: { ...setup, bleed }, need })}
        />
        <span className="text-muted">{setup.unit} of bleed beyond each edge</span>
      </div>
      <NeedFields need={need} onChange={(next) => setPlan({ setup, need: next })} />
      <div className="mt-4 border-line border-t pt-3">
        <PlanFigures {...{ setup, need }} />
      </div>
      <SheetFooter word="Keep it" />
    </form>
  );
}
