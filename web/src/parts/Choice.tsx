import { Options } from './Options.tsx';

interface ChoiceProps {
  readonly label: string;
  /** What it is called to choose nothing; something must be chosen where it is left out. */
  readonly none?: string;
  readonly value: string;
  readonly options: readonly { readonly id: string; readonly name: string }[];
  readonly onChoose: (id: string) => void;
}

/** A choice by which a page is narrowed, its name in its frame. */
export function Choice({ label, none, value, options, onChoose }: ChoiceProps) {
  // An address may name what is not offered, and the browser would show the first that is.
  const isOffered = value === '' || options.some(({ id }) => id === value);
  return (
    <label className={`pick ${none && value ? 'set' : ''}`}>
      {label}
      <select value={value} onChange={(event) => onChoose(event.target.value)}>
        {none && <option value="">{none}</option>}
        {!isOffered && <option value={value}>{options.length === 0 ? '…' : 'Another'}</option>}
        <Options of={options} />
      </select>
    </label>
  );
}
