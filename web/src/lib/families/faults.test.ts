import { expect, it } from 'vitest';
import { faultOf } from './faults';

const FAULTS = [
	{ code: 'F03', trip: 'overcurrent' },
	{ code: 'F30', trip: 'link_lost' },
	{ code: '0x40', trip: 'drive_hot' },
	{ code: 'DRY PUMP', trip: 'underload' }
].map((fault) => ({ ...fault, label: {} }));

it('finds a fault by its code as people type it', () => {
	const trip = (typed: string) => faultOf(FAULTS, typed)?.trip;
	expect(['F03', 'f 3', 'F-003', 'F.03'].map(trip)).toEqual(Array(4).fill('overcurrent'));
	expect(trip('F30')).toBe('link_lost');
	expect(trip('dry pump')).toBe('underload');
	expect(trip('0X40')).toBe('drive_hot');
	expect([trip(''), trip('F3 0 1'), trip('9')]).toEqual([undefined, undefined, undefined]);
});
