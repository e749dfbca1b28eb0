import { FIRST_DAY } from '@ladder/core';
import { useState } from 'react';
import { useFollowed } from './useFollowed.ts';

interface DayChoiceProps {
  readonly label: string;
  /** The day that is chosen where none was; none later may be. */
  readonly last: string;
  readonly value: string;
  /** Null for the usual day. */
  readonly onChoose: (day: string | null) => void;
}

/** A past day by which a page is told, its name in its frame. */
export function DayChoice({ label, last, value, onChoose }: DayChoiceProps) {
  // A day is typed part by part, and is none until it is whole.
  const [typed, setTyped] = useState(value);
  useFollowed(value, false, setTyped);
  return (
    <label className={`pick ${value === last ? '' : 'set'}`}>
      {label}
      <input
        type="date"
        required
        min={FIRST_DAY}
        max={last}
        value={typed}
        onChange={({ target }) => {
          setTyped(target.value);
          if (target.validity.valid) onChoose(target.value === last ? null : target.value);
        }}
        onBlur={() => setTyped(value)}
      />
    </label>
  );
}
