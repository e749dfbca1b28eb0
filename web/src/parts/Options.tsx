interface OptionsProps {
  readonly of: readonly { readonly id: string; readonly name: string }[];
}

/** What a choice offers, in order. */
export const Options = ({ of }: OptionsProps) =>
  of.map(({ id, name }) => (
    <option key={id} value={id}>
      {name}
    </option>
  ));
