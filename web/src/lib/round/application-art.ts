/** What a line can be for, drawn: by the id of the application, in a box of 96 by 56. */
export const ART: Record<string, string> = {
	booster:
		'<path d="M6 48h84"/><circle cx="20" cy="38" r="8"/><circle cx="42" cy="38" r="8"/><circle cx="64" cy="38" r="8"/><path d="M20 30V14h62M42 30V14M64 30V14M82 14v8"/><path d="M78 27h8M79 31h6M80 35h4" opacity=".6"/>',
	borehole:
		'<path d="M6 20h84"/><path d="M24 20v34M42 20v34" opacity=".6"/><path d="M29 34h8v18h-8z"/><path d="M33 34V12h27"/><rect x="60" y="3" width="20" height="17" rx="7"/><path d="M24 30h5M37 30h5" opacity=".6"/>',
	transfer:
		'<path d="M6 24v24h26V24M64 8v40h26V8"/><path d="M6 32h26M64 20h26" opacity=".6"/><circle cx="48" cy="42" r="7"/><path d="M32 42h9M55 42h4V4h18v7"/>',
	circulator:
		'<rect x="14" y="10" width="68" height="36" rx="5"/><circle cx="48" cy="46" r="7" fill="var(--sheet)"/><path d="M45 43l6 3-6 3z"/><path d="M26 4v12M32 4v12M38 4v12" opacity=".6"/><path d="M60 6h16v8H60z" fill="var(--sheet)"/>',
	wet_well:
		'<path d="M20 6v46h56V6M8 6h12M76 6h12"/><path d="M20 32c8-4 10 4 18 0s10 4 18 0 12 4 20 0" opacity=".7"/><path d="M42 38h12v12H42z"/><path d="M48 38V12h34"/><circle cx="66" cy="28" r="3"/>',
	supply_fan:
		'<path d="M6 14h22v28H6zM28 20h62v16H28z"/><circle cx="17" cy="28" r="9"/><path d="M17 28c0-5 5-7 7-4M17 28c4 3 2 8-2 7M17 28c-5 2-8-2-6-5" opacity=".7"/><path d="M42 36v8M60 36v8M78 36v8M40 44l2 4 2-4M58 44l2 4 2-4M76 44l2 4 2-4"/>',
	return_fan:
		'<path d="M90 14H68v28h22zM68 20H6v16h62z"/><circle cx="79" cy="28" r="9"/><path d="M79 28c0-5 5-7 7-4M79 28c4 3 2 8-2 7M79 28c-5 2-8-2-6-5" opacity=".7"/><path d="M18 48v-9M36 48v-9M54 48v-9M16 42l2-4 2 4M34 42l2-4 2 4M52 42l2-4 2 4"/>',
	tower_fan:
		'<path d="M28 14h40l7 36H21z"/><path d="M34 14V8h28v6"/><path d="M38 8c3-3 7-3 10 0 3 3 7 3 10 0" opacity=".8"/><path d="M30 26h36M32 31l3 5M42 31l3 5M52 31l3 5M62 31l3 5" opacity=".6"/><path d="M24 44h48"/>',
	fan_array:
		'<path d="M10 4h76v48H10zM35.300 4v48M60.700 4v48M10 28h76"/><circle cx="22.700" cy="16" r="7"/><circle cx="48" cy="16" r="7"/><circle cx="73.300" cy="16" r="7"/><circle cx="22.700" cy="40" r="7"/><circle cx="48" cy="40" r="7"/><circle cx="73.300" cy="40" r="7"/>',
	twin: '<path d="M8 12h32v34H8zM56 12h32v34H56z"/><path d="M14 22h20M14 30h20M14 38h12M62 22h20M62 30h20M62 38h12" opacity=".6"/><path d="M43 29h10M49 25l4 4-4 4"/>'
};
