import { faultOfNeed, faultOfSheet, sheetLike, USUAL_NEED } from '@miradero/core/easel';
import { cleanName } from '@miradero/core/picture';
import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { Sheet, SheetFooter, useSync } from '../shell/index.ts';
import { ask, recordBoardMade } from '../sync/index.ts';
import { SetupFields, type SheetPlan } from './setup-fields.tsx';

const FIRST: SheetPlan = {
  setup: { width: 12, height: 9.6, unit: 'in', ppi: 400, bleed: 0 },
  need: USUAL_NEED,
};

/** A picture whose proportions a sheet takes over. */
export interface SheetFrom {
  readonly name: string;
  readonly width: number;
  readonly height: number;
}

const planFor = (from: SheetFrom | undefined): SheetPlan =>
  from ? { ...FIRST, setup: sheetLike(from, FIRST.setup) } : FIRST;

/** Sets up a sheet: nothing is begun before it is known whether its pixels are enough. */
export function NewSheet({ from, onClose }: { from?: SheetFrom | undefined; onClose: () => void }) {
  const [plan, setPlan] = useState(() => planFor(from));
  const [name, setName] = useState(from ? `After ${from.name}`.slice(0, 200) : '');
  const [trouble, setTrouble] = useState('');
  const navigate = useNavigate();
  const sync = useSync();
  const make = useMutation({
    mutationFn: (clean: string) => ask('POST /api/boards', { body: { name: clean, sheet: plan } }),
    onSuccess: ({ board }) => {
      recordBoardMade(sync, board);
      return navigate(`/boards/${board.id}`);
    },
    onError: (error) => setTrouble(error.message),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const clean = cleanName(name);
    const fault =
      clean === '' ? 'Give the sheet a name first.' : (faultOfSheet(plan.setup) ?? faultOfNeed(plan.need));
    if (fault) setTrouble(fault);
    else if (!make.isPending) make.mutate(clean);
  };
  return (
    <Sheet
      title={from ? 'A sheet of its proportions' : 'A new sheet'}
      about="Paper of a stated size and resolution. Whether that is enough for print stands below, before anything is drawn."
      onClose={onClose}
      className="w-[min(600px,94vw)] px-5 py-4"
    >
      <form onSubmit={submit}>
        <label className="mt-3 block text-[13px] text-muted">
          What is drawn on it?
          <input
            className="mt-1 block w-full border border-line bg-paper px-2 py-1.5 font-serif text-[16px] text-ink"
            value={name}
            maxLength={200}
            onChange={(event) => {
              setName(event.target.value);
              setTrouble('');
            }}
          />
        </label>
        <SetupFields
          plan={plan}
          onChange={(next) => {
            setPlan(next);
            setTrouble('');
          }}
        />
        {trouble && (
          <p role="alert" className="mt-2 text-vermilion">
            {trouble}
          </p>
        )}
        <SheetFooter word="Set it up" />
      </form>
    </Sheet>
  );
}
