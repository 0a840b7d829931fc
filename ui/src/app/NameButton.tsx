import { Later } from "../kit/Later";
import { late } from "../kit/late";
import { useSession } from "../kit/session";
import type { NameActs } from "./NameMenu";

const NameMenu = late(async () => (await import("./NameMenu")).NameMenu);

const className = "min-h-11 text-sm text-soft";

/** The studio and the name of whoever is signed in. Its menu comes when it is first pressed. */
export function NameButton(acts: NameActs) {
	const { studioName, name: signedIn } = useSession();
	const name = (
		<>
			{studioName} · <span className="font-semibold text-ink">{signedIn}</span> ▾
		</>
	);
	return (
		<Later
			button={(press) => (
				<button type="button" className={className} aria-haspopup="menu" aria-expanded={false} onClick={press}>
					{name}
				</button>
			)}
		>
			{(plain) => <NameMenu meanwhile={plain} name={name} className={className} {...acts} />}
		</Later>
	);
}
