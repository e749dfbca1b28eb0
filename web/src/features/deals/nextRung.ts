import type { KeyboardCoordinateGetter } from '@dnd-kit/core';

/** The arrow keys carry a lifted deal from rung to rung. */
export const nextRung: KeyboardCoordinateGetter = (event, { context, currentCoordinates }) => {
  if (event.code !== 'ArrowDown' && event.code !== 'ArrowUp') return undefined;
  event.preventDefault();
  const { droppableRects, droppableContainers, collisionRect } = context;
  if (!collisionRect) return undefined;
  const middle = collisionRect.top + collisionRect.height / 2;
  const rungs = droppableContainers
    .getEnabled()
    .map(({ id }) => droppableRects.get(id))
    .filter((rect) => rect !== undefined)
    .map((rect) => rect.top + rect.height / 2);
  const step = event.code === 'ArrowDown' ? 1 : -1;
  const next = rungs.filter((y) => (y - middle) * step > 4).sort((a, b) => (a - b) * step)[0];
  return next === undefined ? undefined : { x: currentCoordinates.x, y: currentCoordinates.y + next - middle };
};
