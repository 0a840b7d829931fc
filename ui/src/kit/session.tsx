import { useQuery } from "@tanstack/react-query";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";
import type { Schemas } from "../api/client";
import type { operations } from "../api/schema";
import { sessionQuery } from "../api/session";
import { inZone } from "./format";

/** An operation of the API, or a right within one. */
export type Operation = keyof operations | "override-rule" | "treat-other-day" | "import-studio";

type Session = Schemas["SessionView"] & { skew: number };

const Context = createContext<Session | null>(null);

export function SessionProvider({ session, children }: { session: Session; children: ReactNode }) {
	return <Context.Provider value={session}>{children}</Context.Provider>;
}

/** Who is signed in, with times in the studio's zone. */
export function useSession() {
	const s = useContext(Context);
	if (!s) throw new Error("useSession must be used within SessionProvider");
	const zone = s.timeZone ?? "UTC";
	const at = useMemo(() => inZone(zone), [zone]);
	/** Whether the account may do an operation of the API (internal/studio/roles.txt). */
	const may = (operation: Operation) => Boolean(s.may?.[operation]);
	return { ...s, at, now: () => new Date(Date.now() + s.skew), may, treats: may("save-pre-check") };
}

/** The studio's moment, anew every so many milliseconds. */
export function useNow(every: number): Date {
	const { data } = useQuery(sessionQuery);
	const skew = data?.skew ?? 0;
	const [now, setNow] = useState(() => new Date(Date.now() + skew));
	useEffect(() => {
		setNow(new Date(Date.now() + skew));
		const id = setInterval(() => setNow(new Date(Date.now() + skew)), every);
		return () => clearInterval(id);
	}, [every, skew]);
	return now;
}
