import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { setSession } from "../api/client";
import { sessionQuery } from "../api/session";
import { SignInPage } from "../house/SignInPage";
import { Loading } from "../kit/kit";
import { late } from "../kit/late";
import * as w from "../words/catalogue/app";

// Who is not signed in loads the door alone: the screens, and what finds the way between them, come after it.
const Inside = late(async () => {
	const { Inside, ready } = await import("./Inside");
	await ready;
	return Inside;
});
const TabletWithClient = late(async () => (await import("../house")).TabletWithClient);

/** The door of the studio: it shows the sign-in page to whoever is not signed in. */
export function Studio() {
	const session = useQuery(sessionQuery);
	const client = useQueryClient();
	const csrf = session.data?.csrf ?? "";
	setSession(csrf, () => client.invalidateQueries({ queryKey: sessionQuery.queryKey }));
	useEffect(() => {
		document.title = session.data?.studioName ? w.softPalmStudioName({ studioName: session.data.studioName }) : w.softPalm;
	}, [session.data?.studioName]);
	const signedIn = session.data?.signedIn ?? false;
	useEffect(() => {
		if (signedIn && !/\/room$/.test(window.location.pathname)) void import("../treatment/guide/left").then((m) => m.sendWhatRoomsLeft());
	}, [signedIn]);
	if (!session.data) return <Loading of={w.softPalm} error={session.error} retry={() => session.refetch()} />;
	const { locked, empty, demo } = session.data;
	if (!locked && !empty && !signedIn) return <SignInPage demo={demo ?? []} />;
	const Screens = locked ? TabletWithClient : Inside;
	return <Screens meanwhile={(failed) => <Loading of={w.softPalm} error={failed?.error} retry={failed?.again} />} />;
}
