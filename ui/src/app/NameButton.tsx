import { lazy, Suspense, useState } from "react";
import { useSession } from "../kit/session";
import type { NameActs } from "./NameMenu";

const NameMenu = lazy(async () => ({ default: (await import("./NameMenu")).NameMenu }));

const className = "min-h-11 text-sm text-soft";

/** The studio and the name of whoever is signed in. Its menu comes when it is first pressed. */
export function NameButton(acts: NameActs) {
	const { studioName, name: signedIn } = useSession();
	const [pressed, setPressed] = useState(false);
	const name = (
		<>
			{studioName} · <span className="font-semibold text-ink">{signedIn}</span> ▾
		</>
	);
	const plain = (
		<button type="button" className={className} aria-haspopup="menu" aria-expanded={false} onClick={() => setPressed(true)}>
			{name}
		</button>
	);
	if (!pressed) return plain;
	return (
		<Suspense fallback={plain}>
			<NameMenu name={name} className={className} {...acts} />
		</Suspense>
	);
}
