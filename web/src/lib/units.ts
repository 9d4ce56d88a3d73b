/**
 * Units for display and entry, from the table that the server serves. Nothing here knows a formula: it converts
 * between SI and what is shown, and reads what a person typed.
 */
import type { Schemas } from './api/client';

export type System = Schemas['NewSite']['units'];
export type UnitSystem = Schemas['UnitSystem'];
export type Dimension = Schemas['DimensionView'];
export type Unit = Schemas['UnitView'];

const THIN = '\u202f';
const LEAST = 5e-9; // smaller is noise of the arithmetic

export class UnitTable {
	private readonly byId: Map<string, Dimension>;
	private readonly bySystem: Map<string, UnitSystem>;

	constructor(
		dimensions: Dimension[],
		/** In the order in which a text tells its numbers. */
		readonly systems: UnitSystem[] = []
	) {
		this.byId = new Map(dimensions.map((d) => [d.id, d]));
		this.bySystem = new Map(systems.map((s) => [s.id, s]));
	}

	/** A system's id, where there is such a one; taken as it is while the table has not come. */
	known(system: string | null): System {
		return system && (!this.bySystem.size || this.bySystem.has(system)) ? (system as System) : 'si';
	}

	system(id: System): UnitSystem | undefined {
		return this.bySystem.get(id);
	}

	/** Symbol of the unit in which a system shows a dimension. */
	private usual(dimension: Dimension, system: System): string {
		return this.system(system)?.shows?.[dimension.id] ?? dimension.si;
	}

	/** Symbols that any of the systems shows. */
	shown(dimension: Dimension): string[] {
		return [dimension.si, ...this.systems.map((s) => this.usual(dimension, s.id as System))];
	}

	dimension(id: string | null | undefined): Dimension | undefined {
		return id ? this.byId.get(id) : undefined;
	}

	/** The unit in which a dimension is shown, or the one chosen for a field. */
	unit(id: string | null | undefined, system: System, chosen?: string): Unit | undefined {
		const dimension = this.dimension(id);
		if (!dimension) return undefined;
		const symbol = chosen ?? this.usual(dimension, system);
		return dimension.units.find((u) => u.symbol === symbol) ?? dimension.units[0];
	}

	/** Number in the unit shown, rounded to the dimension's figures. */
	number(
		value: number,
		id: string | null | undefined,
		system: System,
		chosen?: string,
		digits?: number
	): string {
		const unit = this.unit(id, system, chosen);
		const shown = unit ? (value - unit.offset) / unit.factor : value;
		return significant(shown, digits ?? held(shown, this.dimension(id)?.digits ?? 4, unit?.decimals ?? 6));
	}

	/** A value in SI that is a round number of so many digits in the unit that is shown. */
	rounded(value: number, id: string | null | undefined, system: System, digits: number): number {
		const { factor = 1, offset = 0 } = this.unit(id, system) ?? {};
		return Number(((value - offset) / factor).toPrecision(digits)) * factor + offset;
	}

	symbol(id: string | null | undefined, system: System, chosen?: string): string {
		const symbol = this.unit(id, system, chosen)?.symbol ?? '';
		return symbol === '–' ? '' : symbol;
	}

	/** Number and unit, for reading. */
	show(
		value: number,
		id: string | null | undefined,
		system: System,
		chosen?: string,
		digits?: number
	): string {
		const coarse = this.dimension(id)?.coarse;
		if (coarse && !chosen && value >= 120 && value % 30 === 0) chosen = coarse; // 10 min rather than 600 s
		const symbol = this.symbol(id, system, chosen);
		return `${this.number(value, id, system, chosen, digits)}${symbol ? ` ${symbol}` : ''}`;
	}

	/**
	 * SI value from what was typed: "5.5 kW", "7.5 hp", "11,1"; a bare number is in the unit shown.
	 * Returns a text that says what is wrong when it cannot be read.
	 */
	parse(text: string, id: string, system: System, chosen?: string): number | string {
		const dimension = this.dimension(id);
		const match =
			/^([+-]?(?:(?:\d{1,3}(?:[\u00a0\u202f\u2009 ]\d{3})+(?!\d)|\d+)(?:[.,]\d+)*|[.,]\d+)(?:[eE][+-]?\d+)?)\s*(.*)$/.exec(
				text.trim()
			);
		if (!dimension || !match) return `not a number`;
		const value = Number(plain(match[1] ?? '', this.groups(id, system, chosen)));
		if (!Number.isFinite(value)) return `not a number`;
		const typed = match[2]?.trim();
		const unit = typed
			? dimension.units.find((u) => [u.symbol, ...u.aliases].some((s) => key(s) === key(typed)))
			: this.unit(id, system, chosen);
		if (!unit) return `“${typed}” is no unit of this; ${dimension.units.map((u) => u.symbol).join(', ')}`;
		return value * unit.factor + unit.offset;
	}

	/** Whether a comma before exactly three digits groups thousands here: where the country writes so, and where nobody reads thousandths. */
	private groups(id: string, system: System, chosen?: string): boolean {
		return this.system(system)?.groups || WHOLE.has(this.unit(id, system, chosen)?.symbol ?? '');
	}

	/** The number written the other way, where a comma before three digits may be read two ways: "1,800" as 1800 or 1.8. */
	otherReading(text: string, id: string, system: System, chosen?: string): string | undefined {
		const match = EITHER.exec(text.trim());
		if (!match) return undefined;
		return `${match[1]}${this.groups(id, system, chosen) ? '.' : ''}${match[2]}${match[3] ?? ''}`;
	}

	/** The unit that was typed after the number, if it is one of the dimension's. */
	typedUnit(text: string, id: string): string | undefined {
		const typed = /[a-zA-Z°µΩ%/³²·'"–-]+[^\d]*$/.exec(text.trim())?.[0]?.trim();
		if (!typed) return undefined;
		return this.dimension(id)?.units.find((u) => [u.symbol, ...u.aliases].some((s) => key(s) === key(typed)))
			?.symbol;
	}
}

/** Units of which nobody enters thousandths. */
const WHOLE = new Set(['r/min', 'V', 'Pa', 'cfm', 'gpm', 'igpm', 'h', 'ft', 'psi']);
const EITHER = /^([+-]?[1-9]\d{0,2}),(\d{3})([^\d.,].*)?$/;

/** Digits as JavaScript reads them: a comma is a decimal mark unless it groups thousands. */
function plain(number: string, groups: boolean): string {
	const squeezed = number.replace(/[\s\u00a0\u202f\u2009]/g, '');
	const grouped =
		/^[+-]?\d{1,3}(,\d{3})+(\.\d+)?$/.test(squeezed) &&
		((squeezed.match(/,/g)?.length ?? 0) > 1 || squeezed.includes('.') || (groups && EITHER.test(squeezed)));
	return grouped ? squeezed.replace(/,/g, '') : squeezed.replace(/,/g, '.');
}

/** Symbols compared as a gloved hand types them. */
function key(symbol: string): string {
	const squeezed = symbol
		.replace(/[\s·.^]/g, '')
		.replace('³', '3')
		.replace('²', '2')
		.replace('°', '')
		.replace('µ', 'u');
	return ['mW', 'MW', 'MPa'].includes(squeezed) ? squeezed : squeezed.toLowerCase();
}

/** Significant figures of a number that has so many figures at most, and so many decimals; two at least. */
function held(value: number, digits: number, decimals: number): number {
	if (value === 0 || !Number.isFinite(value)) return digits;
	const whole = Math.floor(Math.log10(Math.abs(value))) + 1;
	return Math.max(Math.min(digits, whole + decimals), Math.min(2, digits));
}

/** Plain text of the server in one unit system: where a number stands in it, each tells its own, ⟨300 mm|12 in⟩. */
export function words(text: string, place: number): string {
	return text.replace(/⟨([^⟩]*)⟩/g, (_, inside: string) => {
		const tellings = inside.split('|');
		return tellings[place] ?? tellings[0] ?? '';
	});
}

const FORMATS = new Map<number, Intl.NumberFormat>();

/** Significant figures of a number, whole digits all of them, five and more set apart. */
function formatOf(digits: number): Intl.NumberFormat {
	let format = FORMATS.get(digits);
	if (!format) {
		format = new Intl.NumberFormat('en', {
			maximumSignificantDigits: digits,
			maximumFractionDigits: 0,
			roundingPriority: 'morePrecision',
			useGrouping: 'min2',
			signDisplay: 'negative'
		});
		FORMATS.set(digits, format);
	}
	return format;
}

/** That many significant figures, thousands set apart by a thin space, no noise at the end. */
export function significant(value: number, digits: number): string {
	if (!Number.isFinite(value)) return '–';
	if (Math.abs(value) < LEAST) return '0';
	return formatOf(digits).format(value).replace(/,/g, THIN).replace('-', '−');
}
