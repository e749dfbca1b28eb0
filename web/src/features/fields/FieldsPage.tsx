import '../../style/panel.css';
import './fields.css';
import { FIELD_HOLDERS, type Field, type FieldHolder, foldText } from '@ladder/core';
import { useState } from 'react';
import { Button, ButtonGroup, Form } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import { useSession } from '../../client/session.ts';
import { AsksBeforeLeaving } from '../../parts/AsksBeforeLeaving.tsx';
import { DesignPages } from '../../parts/DesignPages.tsx';
import { ErrorNotice } from '../../parts/ErrorNotice.tsx';
import { percent } from '../../parts/format.ts';
import { Loading } from '../../parts/Loading.tsx';
import { PlainTable } from '../../parts/PlainTable.tsx';
import { FieldPanel } from './FieldPanel.tsx';
import { type FieldUses, useGetFieldsQuery, useGetFieldUsesQuery } from './fieldsApi.ts';
import { TYPE_NAMES } from './fieldWords.ts';
import { NewFieldDialog } from './NewFieldDialog.tsx';

const HOLDERS: Readonly<Record<FieldHolder, string>> = { deal: 'Deal', customer: 'Customer', contact: 'Contact' };

/** Every field of deals, customers and contacts: what it is, where it is used and how often it is filled. */
export function FieldsPage() {
  const { person } = useSession();
  if (person.role !== 'administrator')
    return (
      <div className="empty">
        <h2>Fields are for administrators</h2>
      </div>
    );
  return <Fields />;
}

function Fields() {
  const [search, setSearch] = useSearchParams();
  const [isAdding, setAdding] = useState(false);
  const { data, error } = useGetFieldsQuery();
  const { data: uses, error: usesError } = useGetFieldUsesQuery(undefined, { refetchOnMountOrArgChange: true });
  const holder = FIELD_HOLDERS.find((one) => one === search.get('of')) ?? 'deal';
  const fields = data?.items ?? [];
  const open = fields.find(({ id }) => id === search.get('field'));
  const set = (parts: Readonly<Record<string, string>>) => setSearch({ ...Object.fromEntries(search), ...parts });
  return (
    <>
      <header className="page-head">
        <div>
          <div className="crumb">What deals, customers and contacts are described by</div>
          <h1>Fields</h1>
        </div>
        <DesignPages />
        <div className="grow" />
        <Button onClick={() => setAdding(true)}>New field</Button>
      </header>
      <ErrorNotice error={error ?? usesError} />
      {!data && !error && <Loading />}
      {data && (
        <AsksBeforeLeaving chosenBy="field">
          <div className="beside-panel">
            <div className="list-with-panel">
              <FieldFilter
                fields={fields}
                holder={holder}
                find={search.get('find') ?? ''}
                onHolder={(of) => set({ of })}
                onFind={(find) => set({ find })}
              />
              <FieldTable
                fields={shown(fields, holder, search.get('find') ?? '')}
                uses={uses?.items}
                open={open?.id}
                onOpen={(field) => set({ field })}
              />
            </div>
            {open && (
              <FieldPanel
                key={open.id}
                field={open}
                uses={uses?.items.find(({ field }) => field === open.id)}
                fields={fields}
              />
            )}
            {!open && <p className="fields-none muted">Choose a field to see where it is used, and to change it.</p>}
          </div>
        </AsksBeforeLeaving>
      )}
      {isAdding && (
        <NewFieldDialog holder={holder} onAdded={(field) => set({ field })} onClose={() => setAdding(false)} />
      )}
    </>
  );
}

const shown = (fields: readonly Field[], holder: FieldHolder, find: string): readonly Field[] =>
  fields.filter((field) => field.holder === holder && foldText(field.name).includes(foldText(find.trim())));

interface FieldFilterProps {
  readonly fields: readonly Field[];
  readonly holder: FieldHolder;
  readonly find: string;
  readonly onHolder: (holder: FieldHolder) => void;
  readonly onFind: (find: string) => void;
}

function FieldFilter({ fields, holder, find, onHolder, onFind }: FieldFilterProps) {
  return (
    <div className="fields-bar">
      <ButtonGroup aria-label="Fields of">
        {FIELD_HOLDERS.map((one) => (
          <Button
            key={one}
            size="sm"
            variant="outline-secondary"
            active={one === holder}
            aria-pressed={one === holder}
            onClick={() => onHolder(one)}
          >
            {HOLDERS[one]} {fields.filter((field) => field.holder === one).length}
          </Button>
        ))}
      </ButtonGroup>
      <Form.Control
        size="sm"
        type="search"
        aria-label="Find a field"
        placeholder="Find a field"
        value={find}
        onChange={(event) => onFind(event.target.value)}
      />
    </div>
  );
}

interface FieldTableProps {
  readonly fields: readonly Field[];
  readonly uses: readonly FieldUses[] | undefined;
  readonly open: string | undefined;
  readonly onOpen: (id: string) => void;
}

function FieldTable({ fields, uses, open, onOpen }: FieldTableProps) {
  if (fields.length === 0) return <p className="muted">No field is called so.</p>;
  return (
    <PlainTable heads={['Field', 'Type', 'Used in', 'Filled#']}>
      {fields.map((field) => {
        const own = uses?.find((one) => one.field === field.id);
        return (
          <tr key={field.id} className={field.id === open ? 'on' : ''}>
            <td>
              <Button
                variant="link"
                className="p-0 field-name"
                aria-pressed={field.id === open}
                onClick={() => onOpen(field.id)}
              >
                {field.name}
              </Button>
            </td>
            <td>
              {TYPE_NAMES[field.type]}
              {field.unit && <span className="muted"> in {field.unit}</span>}
            </td>
            <td>{own ? <UsedIn uses={own} /> : <span className="muted">…</span>}</td>
            <td className="num">{own && <FilledShare uses={own} />}</td>
          </tr>
        );
      })}
    </PlainTable>
  );
}

function UsedIn({ uses: { uses, readBy } }: { uses: FieldUses }) {
  const names = [...new Set(uses.map(({ process }) => process.name))];
  if (names.length === 0 && readBy.length > 0) return <span className="muted">a calculated number</span>;
  return names.length > 0 ? names.join(', ') : <span className="muted">nowhere</span>;
}

function FilledShare({ uses: { filled } }: { uses: FieldUses }) {
  const [of, has] = [sum(filled.map((one) => one.of)), sum(filled.map((one) => one.filled))];
  return of === 0 ? <span className="muted">–</span> : <span title={`${has} of ${of}`}>{percent(has / of)}</span>;
}

const sum = (numbers: readonly number[]): number => numbers.reduce((total, number) => total + number, 0);
