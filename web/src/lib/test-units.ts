/** Unit systems as the server serves them, as far as tests need them. */
import type { UnitSystem } from './units';

const PLAIN = { shows: {}, paper: 'A4', groups: false, month_first: false };
const FEET = { head: 'ft', length: 'ft', pressure: 'psi' };
export const SYSTEMS: UnitSystem[] = [
	{ ...PLAIN, id: 'si', label: 'SI' },
	{
		id: 'us',
		label: 'US',
		shows: {
			...FEET,
			power: 'hp',
			flow: 'gpm',
			temperature: '°F',
			temperature_difference: '°F',
			volume: 'gal'
		},
		paper: 'Letter',
		groups: true,
		month_first: true
	},
	{ ...PLAIN, id: 'im', label: 'Imp', shows: { ...FEET, flow: 'igpm', volume: 'igal' } }
];
