import type { Link } from '@miradero/core/items';
import type { ReactNode } from 'react';
import type { Desk } from '../../desk/index.ts';
import { EditableName, EditableText, WEB_ADDRESS } from '../../shell/index.ts';
import { Standing } from '../standing.tsx';

const Field = ({ name, children }: { name: string; children: ReactNode }) => (
  <div className="flex items-baseline gap-3 border-line border-t py-[5px]">
    <dt className="text-muted">{name}</dt>
    <dd className="min-w-0 flex-1">{children}</dd>
  </div>
);

/** What a card says, to be said otherwise. */
export function LinkLabel({ desk, item: link }: { desk: Desk; item: Link }): ReactNode {
  const set = (values: Partial<Link>) => desk.session.commit([{ item: link.id, set: values }]);
  return (
    <>
      <EditableName
        key={link.id}
        label="Title of the page"
        className="text-[20px] leading-[1.2]"
        isWrapping
        name={link.title}
        onRename={(title) => set({ title: title.slice(0, 300) })}
      />
      <dl className="text-[13px]">
        <Field name="Address">
          <EditableText
            label="Address of the page"
            value={link.address}
            placeholder="https://"
            kind={WEB_ADDRESS}
            onChange={(address) => address !== '' && set({ address })}
          />
        </Field>
        <Field name="Site">
          <EditableText
            label="Whose page it is"
            value={link.site}
            placeholder="whose page"
            onChange={(site) => set({ site: site.slice(0, 200) })}
          />
        </Field>
        <Standing desk={desk} item={link} />
      </dl>
      <a
        href={link.address}
        target="_blank"
        rel="noopener noreferrer"
        className="mt-2 block text-[13px] underline decoration-1 underline-offset-3"
      >
        open the page
      </a>
    </>
  );
}
