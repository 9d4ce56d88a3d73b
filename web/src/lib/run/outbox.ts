/**
 * What was entered and the server has not confirmed: kept in this device's database before anything else, so that a
 * closed tab or an empty battery loses nothing, and sent in the order it was made.
 */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { Problem, Schemas } from '../api/client';

type Evidence = Schemas['NewEvidence'];

export interface Entry {
	/** Order of making; given by the database. */
	order?: number;
	line: string;
	id: string;
	step: string;
	title: string;
	kind: NonNullable<Evidence['kind']>;
	data: Record<string, unknown>;
	by: string;
	note: string;
	/** When it was made, by the server's clock as far as this device knows it. */
	at: string;
	/** Whether the time is told by the person: typed in from paper. */
	told: boolean;
	instrument: Evidence['instrument'] | null;
	/** Ids of the evidence that was known to be in force when it was made. */
	seen: string[];
	/** The count of the line's changes at which the sheet was seen. */
	sheet: number;
	/** The run of the application that made it, its seconds, and whether it had heard the server's time. */
	device?: string;
	ran?: number;
	sure?: boolean;
	photo?: Blob;
	/** Whether sending was tried and the server did not answer. */
	tried?: boolean;
	/** Why the server refused it; it waits for a person to decide. */
	refused?: { status: number; problem: Problem };
}

interface Device extends DBSchema {
	outbox: { key: number; value: Entry; indexes: { line: string } };
}

let opened: Promise<IDBPDatabase<Device>> | undefined;

function device(): Promise<IDBPDatabase<Device>> {
	opened ??= openDB<Device>('mainspring', 1, {
		upgrade(database) {
			const store = database.createObjectStore('outbox', { keyPath: 'order', autoIncrement: true });
			store.createIndex('line', 'line');
		}
	});
	return opened;
}

/** Keep an entry; when this resolves it is on the disk. */
export async function keep(entry: Entry): Promise<Entry> {
	const database = await device();
	const transaction = database.transaction('outbox', 'readwrite', { durability: 'strict' });
	const order = await transaction.store.put(structuredClone(entry));
	await transaction.done;
	return { ...entry, order };
}

/** The entries of a line, in the order they were made. */
export async function waiting(line: string): Promise<Entry[]> {
	return (await (await device()).getAllFromIndex('outbox', 'line', line)).sort(
		(a, b) => (a.order ?? 0) - (b.order ?? 0)
	);
}

/** How many entries wait, by line. */
export async function lines(): Promise<Record<string, number>> {
	const count: Record<string, number> = {};
	for (const { line } of await (await device()).getAll('outbox')) count[line] = (count[line] ?? 0) + 1;
	return count;
}

/** Take an entry away: the server has it, or a person let it go. */
export async function remove(entry: Entry): Promise<void> {
	if (entry.order !== undefined) await (await device()).delete('outbox', entry.order);
}

/** One sender at a time, whichever tab it runs in. */
export async function alone(work: () => Promise<void>): Promise<void> {
	await navigator.locks.request('mainspring-outbox', work);
}
