// Five kinds of writers for scripts/check-kill. Each writes one thing after the other and
// notes what the server acknowledged; a request without an answer is sent again under the
// same key until there is one.
import { appendFileSync, writeFileSync } from "node:fs";
import { randomUUID } from "node:crypto";

const [base, folder] = process.argv.slice(2);
let stopping = false;
process.on("SIGTERM", () => {
	stopping = true;
});
const rest = (ms) => new Promise((r) => setTimeout(r, ms));

let cookie = "";
let csrf = "";
/** Asks until there is an answer; a server that is away or busy is asked again. */
async function ask(method, path, body, key = randomUUID()) {
	for (let tries = 0; tries < 600; tries++) {
		try {
			const r = await fetch(base + path, {
				method,
				headers: { "Content-Type": "application/json", Cookie: cookie, "X-CSRF-Token": csrf, "Idempotency-Key": key },
				...(body === undefined ? {} : { body: JSON.stringify(body) }),
				signal: AbortSignal.timeout(15_000),
			});
			const text = await r.text();
			if (r.status < 500 && r.status !== 429) return { status: r.status, headers: r.headers, body: text ? JSON.parse(text) : null };
		} catch {
			// killed: asked again
		}
		await rest(30);
	}
	throw new Error(`${method} ${path} was never answered`);
}

const signedIn = await ask("POST", "/api/sign-in", { email: "owner@demo.example", password: "demo palms 1" });
cookie = signedIn.headers.get("set-cookie").split(";")[0];
csrf = signedIn.body.csrf;
const clients = (await ask("GET", "/api/clients")).body.clients;
const protocols = (await ask("GET", "/api/protocols")).body;
const published = protocols.find((p) => p.version > 0);
const shelf = (await ask("GET", "/api/shelf")).body;
const free = (await ask("GET", `/api/free-times?protocol=${published.id}&from=2027-03-01&days=31`)).body;

for (const f of ["clients", "visits", "lots", "consents", "drafts"]) writeFileSync(`${folder}/${f}.acked`, "");
const acked = (what, value) => appendFileSync(`${folder}/${what}.acked`, `${value}\n`);
const must = (r, path) => {
	if (r.status >= 300) throw new Error(`${path}: ${r.status} ${JSON.stringify(r.body)}`);
	return r;
};

const writers = [
	async (n) => {
		const body = { name: `Killed ${n}`, email: "", phone: "", birthDate: "", skinType: "dry", skinStates: [], phototype: 0, note: "" };
		must(await ask("POST", "/api/clients", body), "clients");
		acked("clients", body.name);
	},
	async (n) => {
		const slot = free[n * 5];
		if (!slot) return "over";
		const id = randomUUID();
		const r = await ask("POST", "/api/visits", { id, client: clients[n % clients.length].id, practitioner: slot.practitioner, room: slot.room, protocol: published.id, start: slot.start });
		if (r.status === 409) return; // taken by an earlier one of ours: a free time overlaps its neighbours
		if (r.status === 200) acked("visits", id);
	},
	async (n) => {
		const line = { product: shelf[0].product.id, number: `KILL-${n}`, expiry: "2028-01-01", monthsOpen: 6, packs: 2, packSize: "50", cost: "10.00", side: "cabin" };
		must(await ask("POST", "/api/deliveries", { lines: [line], freight: "1.50" }), "deliveries");
		acked("lots", line.number);
	},
	async (n) => {
		const body = { kind: "photos", signer: `Signer ${n}`, guardian: true, signature: [[10, 100, 40, 60, 80, 120, 120, 70], [150, 90, 200, 110, 260, 80, 300, 100]] };
		must(await ask("POST", `/api/clients/${clients[n % clients.length].id}/consents`, body), "consents");
		acked("consents", body.signer);
	},
	async () => {
		const open = (await ask("GET", `/api/protocols/${published.id}`)).body;
		const r = await ask("PUT", `/api/protocols/${published.id}/draft`, { revision: open.revision ?? 0, basedOn: open.basedOn ?? published.version, protocol: open.protocol });
		if (r.status === 409) return; // the first try had been saved before the kill
		must(r, "draft");
		acked("drafts", r.body.number);
	},
];

await Promise.all(
	writers.map(async (write) => {
		for (let n = 0; !stopping; n++) if ((await write(n)) === "over") break;
	}),
);
