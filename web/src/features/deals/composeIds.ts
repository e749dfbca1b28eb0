import type { ActivityKind } from '@ladder/core';

/** Where on the page one writes down what happened. */
export const COMPOSE_ID = 'compose';
export const composeKindId = (kind: ActivityKind): string => `compose-${kind}`;
