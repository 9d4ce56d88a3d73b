/** What belongs to this device and this person: name, unit system, light or dark, and the tables from the server. */
import { answer, api, reader, type Schemas } from './api/client';
import { UnitTable, type System, words } from './units';

function remembered(key: string): string | null {
	try {
		return localStorage.getItem(`mainspring.${key}`);
	} catch {
		return null;
	}
}

function remember(key: string, value: string): void {
	try {
		localStorage.setItem(`mainspring.${key}`, value);
	} catch {
		/* storage is closed to us; it holds for this visit */
	}
}

/** A difference of clocks that no way explains, in ms: one of them was set. */
const CLOCK_SET = 10_000;

class Session {
	/** Who works on this device; empty until somebody has said so. */
	who = $state(remembered('who') ?? '');
	/** Waits for a name, where something is to be signed and nobody has given one. */
	signing = $state.raw<((named: boolean) => void) | null>(null);
	system = $state<System>((remembered('units') ?? 'si') as System);
	mode = $state<'light' | 'dark'>('light');
	units = $state.raw(new UnitTable([]));
	groups = $state.raw<Schemas['GroupView'][]>([]);
	applications = $state.raw<Schemas['ApplicationView'][]>([]);
	/** Where the figure whose working is open comes from; null when the drawer is shut. */
	working = $state.raw<Promise<Schemas['WorkingView']> | null>(null);
	paletteOpen = $state(false);
	reachable = $state(true);
	/** How many entries wait on this device, by line. */
	waiting = $state.raw<Record<string, number>>({});
	/** The server's time less this device's; kept, so that a clock is right after a reload without a link. */
	private skew = Number(remembered('skew') ?? 0);
	private anchor = { time: Date.now() + this.skew, ran: performance.now() };
	private heard = false;
	private run = crypto.randomUUID();

	async load(): Promise<void> {
		const found = await answer(api.GET('/api/catalogue'));
		this.units = new UnitTable(found.dimensions, found.systems);
		this.read(this.system);
		this.groups = found.groups;
		this.applications = found.applications;
		this.mode = document.documentElement.dataset['mode'] === 'dark' ? 'dark' : 'light';
	}

	/** The site whose pages are open; empty where several are shown. */
	private site = '';

	/** A site is looked at: in its own units, unless somebody chose others for it on this device. */
	atSite(id: string, system: string): void {
		this.site = id;
		const chosen = remembered(`units.${id}`) ?? system;
		this.read(chosen);
	}

	/** All sites are looked at. */
	atAllSites(): void {
		this.site = '';
		this.read(remembered('units'));
	}

	/** Units for the site that is open, and for no other: what is typed on the next is in its own. */
	setUnits(system: System): void {
		this.read(system);
		remember(this.site ? `units.${this.site}` : 'units', system);
	}

	private read(system: string | null): void {
		this.system = reader.units = this.units.known(system);
	}

	setWho(name: string): void {
		this.who = name.trim();
		remember('who', this.who);
	}

	/** Who stands beside what needs no signature. */
	get by(): string {
		return this.who || 'Technician';
	}

	/** Ask for a name, once on this device; false where none was given. */
	signed(): Promise<boolean> {
		if (this.who) return Promise.resolve(true);
		return new Promise((resolve) => (this.signing = resolve));
	}

	/** The name that was asked for; none where it was not given. */
	signs(name: string): void {
		if (name.trim()) this.setWho(name);
		this.signing?.(this.who !== '');
		this.signing = null;
	}

	toggleMode(): void {
		this.mode = this.mode === 'dark' ? 'light' : 'dark';
		document.documentElement.dataset['mode'] = this.mode;
		document.documentElement.style.colorScheme = this.mode;
		remember('mode', this.mode);
	}

	/**
	 * The server told its time. What it says is late by the way it took and never early, so the largest difference is
	 * the best, until a clock was set.
	 */
	hears(time: string): void {
		this.reachable = this.heard = true;
		const told = Date.parse(time);
		const ahead = told - this.now();
		if (ahead > 0 || -ahead >= CLOCK_SET) this.anchor = { time: told, ran: performance.now() };
		this.skew = Math.round(this.now() - Date.now());
		remember('skew', String(this.skew));
	}

	/** The server's time, as far as this device knows it: carried on by a clock that nobody can set. */
	now(): number {
		return this.anchor.time + (performance.now() - this.anchor.ran);
	}

	/** This run of the application, its seconds, and whether it has heard the server's time. */
	running(): { device: string; ran: number; sure: boolean } {
		return { device: this.run, ran: performance.now() / 1000, sure: this.heard };
	}

	/** Text of the server, in this person's units. */
	words(text: string): string {
		return words(
			text,
			this.units.systems.findIndex((s) => s.id === this.system)
		);
	}

	/** The number alone, to as many figures as it carries. */
	rough(value: number, dimension: string, digits: number): string {
		return this.units.number(
			this.units.rounded(value, dimension, this.system, digits),
			dimension,
			this.system
		);
	}

	show(value: number, dimension: string | null | undefined): string {
		return this.units.show(value, dimension, this.system);
	}
}

export const session = new Session();
