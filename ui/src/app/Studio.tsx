import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect } from "react";
import { setSession } from "../api/client";
import { noteInside, sessionQuery } from "../api/session";
import { SignInPage } from "../house/SignInPage";
import { Loading } from "../kit/kit";
import * as w from "../words/catalogue/app";

// Who is not signed in loads the door alone: the screens, and what finds the way between them, come after it.
const Inside = lazy(async () => ({ default: (await import("./Inside")).Inside }));
const TabletWithClient = lazy(async () => ({ default: (await import("../house")).TabletWithClient }));

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
		if (session.data) noteInside(signedIn);
	}, [session.data, signedIn]);
	useEffect(() => {
		if (signedIn && !/\/room$/.test(window.location.pathname)) void import("../treatment/guide/left").then((m) => m.sendWhatRoomsLeft());
	}, [signedIn]);
	if (!session.data) return <Loading of={w.softPalm} error={session.error} retry={() => session.refetch()} />;
	const { locked, empty, demo } = session.data;
	if (!locked && !empty && !signedIn) return <SignInPage demo={demo ?? []} />;
	return <Suspense fallback={<Loading of={w.softPalm} />}>{locked ? <TabletWithClient /> : <Inside />}</Suspense>;
}
