import type { Schemas } from "./client";

type Fields = Record<string, unknown>;

/** An answer after changes to the one before. What has not changed is the same object, so that nothing of it is drawn anew. */
export function changed<T extends object>(before: T, c: Schemas["Changes"]): T {
	const was = before as Fields;
	const now = apply(was, c);
	for (const [name, rows] of Object.entries(c.rows ?? {})) {
		const list = was[name] as Fields[];
		now[name] = rows.map((r) => {
			const row = r.was < 0 ? {} : list[r.was]!;
			return r.set || r.gone ? apply(row, r) : row;
		});
	}
	return now as T;
}

function apply(before: Fields, c: { set?: Record<string, unknown> | undefined; gone?: string[] | null | undefined }): Fields {
	const now = { ...before, ...c.set };
	for (const name of c.gone ?? []) delete now[name];
	return now;
}
