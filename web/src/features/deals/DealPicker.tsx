import type { DealId, ProcessId } from '@ladder/core';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { shortValue } from '../../parts/format.ts';
import { useListDealsInfiniteQuery } from './dealsApi.ts';

interface DealPickerProps {
  readonly label: string;
  /** A deal that is not offered. */
  readonly without: string;
  readonly process: ProcessId;
  readonly value: string | null;
  readonly problem?: string | undefined;
  readonly onChange: (deal: DealId) => void;
}

const OFFERED = 6;

/** Finds an open deal of the process by its name or customer. */
export function DealPicker({ label, without, process, value, problem, onChange }: DealPickerProps) {
  const [find, setFind] = useState('');
  const { data } = useListDealsInfiniteQuery({ process, find, limit: OFFERED + 1 }, { skip: find.trim().length < 2 });
  const found = data?.pages.flatMap(({ items }) => items).filter(({ id }) => id !== without) ?? [];
  return (
    <fieldset className="mb-2">
      <Form.Label htmlFor="deal-picker">{label}</Form.Label>
      <Form.Control
        id="deal-picker"
        type="search"
        placeholder="Its name or customer"
        value={find}
        isInvalid={Boolean(problem)}
        onChange={(event) => setFind(event.target.value)}
      />
      <Form.Control.Feedback type="invalid">{problem}</Form.Control.Feedback>
      {find.trim().length >= 2 && data && found.length === 0 && (
        <p className="small muted mb-0">No open deal is called so.</p>
      )}
      <div className="mt-2">
        {found.slice(0, OFFERED).map(({ id, name, value: worth, owner }) => (
          <Form.Check
            key={id}
            type="radio"
            name="deal-picked"
            id={`picked-${id}`}
            label={`${name}, ${shortValue(worth)}${owner ? `, ${owner}` : ''}`}
            checked={value === id}
            onChange={() => onChange(id)}
          />
        ))}
      </div>
    </fieldset>
  );
}
