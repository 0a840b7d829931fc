const key = "softpalm-device";

/** Holds a name while this page is open; false where another page holds it. */
function held(name: string): Promise<boolean> {
	if (!navigator.locks) return Promise.resolve(true);
	return new Promise((resolve) => {
		void navigator.locks.request(`room ${name}`, { ifAvailable: true }, (lock) => {
			resolve(lock !== null);
			return lock ? new Promise(() => {}) : undefined;
		});
	});
}

const pause = (ms: number) => new Promise((r) => setTimeout(r, ms));

let name: Promise<string> | undefined;

/** The name of this tablet in the room's log: the browser's own, and one more for a second page beside it. A reload keeps it. */
export function deviceName(): Promise<string> {
	name ??= find();
	return name;
}

async function find(): Promise<string> {
	const own = sessionStorage.getItem(key);
	// A page that is being left lets go of its name a moment later.
	for (let i = 0; own && i < 5; i++) {
		if (await held(own)) return own;
		await pause(100);
	}
	const usual = localStorage.getItem(key) ?? crypto.randomUUID();
	localStorage.setItem(key, usual);
	const name = own !== usual && (await held(usual)) ? usual : crypto.randomUUID();
	if (name !== usual) await held(name);
	sessionStorage.setItem(key, name);
	return name;
}
