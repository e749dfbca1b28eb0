interface SettingChangesProps {
  readonly changes: readonly {
    readonly part: string;
    readonly before: string | null;
    readonly after: string | null;
  }[];
}

/** Each part of a setting that was changed, before and after. */
export const SettingChanges = ({ changes }: SettingChangesProps) =>
  changes.map(({ part, before, after }) => (
    <div key={part}>
      <span className="muted">{part}</span> {before === null ? '' : `${before} → `}
      {after ?? 'none'}
    </div>
  ));
