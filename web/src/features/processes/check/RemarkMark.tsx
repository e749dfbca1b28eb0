import type { Remark } from '@ladder/core';
import { ExclamationTriangle, XOctagon } from 'react-bootstrap-icons';
import { useDesign } from '../designContext.ts';

/** Beside a part of the sheet: that the design check has something to say of it. Suggestions are told under the sheet alone. */
export function RemarkMark({ part }: { part: string }) {
  const { check } = useDesign();
  return <Mark of={(check?.remarks ?? []).filter(({ place }) => place.part === part)} />;
}

/** The same of a stage as a whole. */
export function StageMark({ stage }: { stage: string }) {
  const { check } = useDesign();
  return <Mark of={(check?.remarks ?? []).filter(({ place }) => place.stage === stage && place.part === null)} />;
}

function Mark({ of }: { of: readonly Remark[] }) {
  const told = of.filter(({ weight }) => weight !== 'suggestion');
  if (told.length === 0) return null;
  const isProblem = told.some(({ weight }) => weight === 'problem');
  const Icon = isProblem ? XOctagon : ExclamationTriangle;
  const name = told.map(({ says }) => says).join(' ');
  return <Icon className={`remark-mark ${isProblem ? 'text-held' : 'text-flagged'}`} title={name} role="img" />;
}
