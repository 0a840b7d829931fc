import { type ComponentType, type ReactNode, useCallback, useEffect, useState } from "react";
import { NotFetched } from "./NotFetched";

/** What stands for a component that is on its way, or that could not be had and can be asked for again. */
type Meanwhile = (failed?: { error: unknown; again: () => void }) => ReactNode;

/**
 * A component whose code is fetched when it is first drawn, and which is drawn as soon as it is there. (React's own lazy
 * leaves what stands in for it on the screen for a third of a second at least.) Where nothing stands for one that could not
 * be had, a note says so; the page stays as it is, with all that was typed.
 */
export function late<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P & { meanwhile?: Meanwhile }> {
	let there: ComponentType<P> | undefined;
	return function Late({ meanwhile, ...props }: { meanwhile?: Meanwhile }) {
		const [, drawAgain] = useState(false);
		const [failed, setFailed] = useState<{ error: unknown; again: () => void }>();
		const come = useCallback(async () => {
			setFailed(undefined);
			try {
				there ??= await load();
				drawAgain(true);
			} catch (error) {
				setFailed({ error, again: come });
			}
		}, []);
		useEffect(() => {
			if (!there) void come();
		}, [come]);
		if (there) {
			const There = there;
			return <There {...(props as P)} />;
		}
		if (meanwhile) return meanwhile(failed);
		return failed ? <NotFetched again={failed.again} /> : null;
	};
}
