import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/**
 * What waits to be sent, saved by the browser (IndexedDB) until the server has it: a
 * reload, a closed lid or a lost network loses nothing that was typed.
 */
export type Waiting<T> = {
	find(): Promise<T | undefined>;
	save(value: T): Promise<void>;
	drop(): Promise<void>;
};

interface Stored extends DBSchema {
	waiting: { key: string; value: { value: unknown; since: number } };
}

/** How long something unsent is stored, in milliseconds: as long as a private link is valid. */
export const storedFor = 72 * 3_600_000;

let opened: Promise<IDBPDatabase<Stored>> | undefined;

function database(): Promise<IDBPDatabase<Stored>> {
	opened ??= openDB<Stored>("softpalm", 1, {
		upgrade: (db) => void db.createObjectStore("waiting"),
		terminated: () => {
			opened = undefined;
		},
	}).then(async (db) => {
		for (const key of await db.getAllKeys("waiting")) {
			const old = await db.get("waiting", key);
			if (!old || old.since < Date.now() - storedFor) await db.delete("waiting", key);
		}
		return db;
	});
	return opened;
}

/** The places of what waits whose names begin so. */
export async function waitingKeys(begin: string): Promise<string[]> {
	try {
		return (await (await database()).getAllKeys("waiting")).filter((k) => k.startsWith(begin));
	} catch {
		return [];
	}
}

/** The place of one thing that waits, such as the record of a treatment. A browser that keeps nothing loses only what a reload would. */
export function waitingAt<T>(key: string): Waiting<T> {
	const attempt = async <R>(work: (db: IDBPDatabase<Stored>) => Promise<R>) => {
		try {
			return await work(await database());
		} catch {
			return undefined; // storage is full, refused or in private mode
		}
	};
	return {
		find: () => attempt(async (db) => (await db.get("waiting", key))?.value as T | undefined),
		save: async (value) => void (await attempt((db) => db.put("waiting", { value, since: Date.now() }, key))),
		drop: async () => void (await attempt((db) => db.delete("waiting", key))),
	};
}
