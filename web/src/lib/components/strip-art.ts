/** The six stations as line art, by their id. */
export const DRAWN: Record<string, string> = {
	supply:
		'<path d="M5 13c4-11 8-11 12.500 0s8.500 11 12.500 0"/><path d="M5 23c4-11 8-11 12.500 0s8.500 11 12.500 0" opacity=".45"/>',
	drive: '<rect x="7" y="4" width="22" height="28" rx="1.500"/><path d="M11 25v-7h3v7h3V11h3v14h3v-7h2"/>',
	motor:
		'<path d="M5 10h20v17H5z"/><path d="M9 10v17M13 10v17M17 10v17M21 10v17" opacity=".4"/><path d="M25 18.500h8M8 27v4h14v-4"/>',
	machine:
		'<circle cx="16" cy="20" r="10"/><path d="M16 10h15v6H24.500"/><circle cx="16" cy="20" r="2.600"/><path d="M16 17.400c4-1 6 1 6 4M13.700 21.300c-1 4-4 4-6 3M18 21.700c0 4-2 6-5 6" opacity=".7"/>',
	system:
		'<path d="M3 27h30M3 31h30"/><path d="M13 27v-4M21 27v-4"/><rect x="9" y="6" width="16" height="17" rx="7"/><path d="M9 15c5 2.500 11-2.500 16 0"/>',
	sensor:
		'<circle cx="18" cy="15" r="10"/><path d="M18 15l5-5"/><path d="M18 25v7M13 32h10"/><path d="M11 18a7.500 7.500 0 0 1 2-9" opacity=".5"/>'
};
