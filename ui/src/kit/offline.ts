/** Lets the room guide go on without a network, also across a reload: what it needs is kept by the browser, see public/sw.js. */
export async function keepRoomOffline(visit: string) {
	if (!("serviceWorker" in navigator)) return;
	try {
		await navigator.serviceWorker.register("/sw.js");
		const { active } = await navigator.serviceWorker.ready;
		const loaded = performance
			.getEntriesByType("resource")
			.map((r) => new URL(r.name))
			.filter((u) => u.origin === window.location.origin && /^\/(assets|tones)\//.test(u.pathname))
			.map((u) => u.pathname);
		const at = `/api/visits/${visit}`;
		active?.postMessage({ keep: [...loaded, window.location.pathname, "/api/session", "/api/library", `${at}/room`, `${at}/refits`] });
	} catch {
		// Without it only a reload needs the network.
	}
}

/** Forgets what the room was told, as on signing out. */
export async function forgetRoom() {
	if (!("serviceWorker" in navigator)) return;
	const of = await navigator.serviceWorker.getRegistration();
	of?.active?.postMessage("forget");
}
