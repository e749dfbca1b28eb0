import { listOf, ms, type StoredPart } from './storedPart.ts';

const COLUMNS = { requirement: 'requirement', from: ms('from_at'), to: ms('to_at') };

export const waiversStored: StoredPart<'waivers'> = {
  select: { waivers: 'waivers.list' },
  from: listOf('waivers', COLUMNS, `waivers where deal_id = d.id and state = 'granted'`, 'from_at'),
  read: ({ waivers }) => ({ waivers: waivers.map((one) => ({ ...one, to: Number(one.to) })) }),
};
