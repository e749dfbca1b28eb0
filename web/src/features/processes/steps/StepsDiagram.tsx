import dagre from '@dagrejs/dagre';
import { type FlowEdge, leadWords, type ProcessDocument, type Stage, stepFlow } from '@ladder/core';
import { useMemo } from 'react';
import { useDesign } from '../designContext.ts';

const WIDTH = 132;
const HEIGHT = 28;
/** So much smaller it is drawn to have room; it is scrolled beyond. */
const SMALLEST = 0.75;

/** The steps of a stage and where each result leads: drawn, and as a list for who does not see it. */
export function StepsDiagram({ stage }: { stage: Stage }) {
  const { document } = useDesign();
  const flow = useMemo(() => stepFlow(stage.steps), [stage.steps]);
  const drawn = useMemo(() => layOut(document, stage, flow.edges), [document, stage, flow]);
  const name = (id: string): string => stage.steps.find((step) => step.id === id)?.name ?? '';
  const wrong = new Set([...flow.unreachable, ...flow.endless]);
  return (
    <div className="steps-flow">
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what is scrolled has to be reached by keyboard */}
      <div role="group" className="scrolled" aria-label="Where results lead, drawn" tabIndex={0}>
        <svg
          className="steps-diagram"
          viewBox={`0 0 ${drawn.width} ${drawn.height}`}
          width={drawn.width}
          height={drawn.height}
          style={{ minWidth: drawn.width * SMALLEST }}
          aria-hidden
        >
          <defs>
            <marker id="arrow" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto">
              <path d="M0 0 8 4 0 8z" className="arrow" />
            </marker>
          </defs>
          {drawn.edges.map(({ key, path }) => (
            <path key={key} d={path} markerEnd="url(#arrow)" />
          ))}
          {drawn.nodes.map(({ id, label, x, y, isOut }) => (
            <g key={id} className={isOut ? 'out' : wrong.has(id) ? 'wrong' : ''}>
              <rect x={x - WIDTH / 2} y={y - HEIGHT / 2} width={WIDTH} height={HEIGHT} rx={5} />
              <text x={x} y={y + 4} textAnchor="middle">
                {shortened(label)}
              </text>
            </g>
          ))}
          {drawn.edges.map(({ key, x, y, label }) => (
            <text key={key} className="edge-name" x={x} y={y + 4} textAnchor="middle">
              {shortened(label)}
            </text>
          ))}
        </svg>
      </div>
      <ul className="sr">
        {stage.steps.flatMap((step) =>
          step.results.map((result) => (
            <li key={`${step.id} ${result.id}`}>
              {step.name}, {result.name}: {leadWords(document, stage, step.id, result)}
            </li>
          )),
        )}
      </ul>
      {flow.unreachable.map((id) => (
        <p key={id} className="small text-held mb-1">
          Nothing leads to “{name(id)}”: nobody comes to it.
        </p>
      ))}
      {flow.endless.map((id) => (
        <p key={id} className="small text-held mb-1">
          “{name(id)}” goes round: no result leads out of it in the end.
        </p>
      ))}
    </div>
  );
}

const MOST_LETTERS = 20;
const shortened = (text: string): string =>
  text.length > MOST_LETTERS ? `${text.slice(0, MOST_LETTERS - 1).trimEnd()}…` : text;

interface Drawn {
  readonly width: number;
  readonly height: number;
  readonly nodes: readonly { id: string; label: string; x: number; y: number; isOut: boolean }[];
  readonly edges: readonly { key: string; label: string; path: string; x: number; y: number }[];
}

/** Places of steps, of the ways out of the stage, and of what leads from one to another. */
function layOut(document: ProcessDocument, stage: Stage, flow: readonly FlowEdge[]): Drawn {
  const graph = new dagre.graphlib.Graph({ multigraph: true });
  graph.setGraph({ rankdir: 'TB', nodesep: 18, ranksep: 34, edgesep: 14, marginx: 6, marginy: 6 });
  graph.setDefaultEdgeLabel(() => ({}));
  const node = (id: string, label: string): void => {
    graph.setNode(id, { label, width: WIDTH, height: HEIGHT });
  };
  for (const { id, name } of stage.steps) node(id, name);
  for (const { from, result, to } of flow) {
    const words = leadWords(document, stage, from, result);
    const target = to ?? `out ${words}`;
    if (to === null) node(target, outWords(words));
    graph.setEdge(from, target, { label: result.name, width: 90, height: 14, labelpos: 'c' }, result.id);
  }
  dagre.layout(graph);
  const { width = 0, height = 0 } = graph.graph();
  return {
    width,
    height,
    nodes: graph.nodes().map((id) => {
      const { label = '', x, y } = graph.node(id);
      return { id, label, x, y, isOut: id.startsWith('out ') };
    }),
    edges: graph.edges().map((edge) => {
      const { points, label = '', x, y } = graph.edge(edge);
      return { key: `${edge.v} ${edge.w} ${edge.name}`, label, path: pathThrough(points), x, y };
    }),
  };
}

const outWords = (words: string): string =>
  words
    .replace(/^(the steps are |moves the deal |closes the deal )/, '')
    .replace(/^./, (letter) => letter.toUpperCase());

/** A line through the points, bent softly at each. */
function pathThrough(points: readonly { x: number; y: number }[]): string {
  const [first, ...rest] = points;
  if (!first) return '';
  const last = rest.at(-1) ?? first;
  const bends = rest.slice(0, -1).map(({ x, y }, place) => {
    const next = rest[place + 1] ?? last;
    return `Q${x} ${y} ${(x + next.x) / 2} ${(y + next.y) / 2}`;
  });
  return `M${first.x} ${first.y} ${bends.join(' ')} L${last.x} ${last.y}`;
}
