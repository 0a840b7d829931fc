import { useIsFetching } from "@tanstack/react-query";
import { type ReactNode, useEffect, useRef, useState } from "react";

/**
 * A part of a long page that is made, and asked for, when it comes near the screen; what is above it comes first. It
 * stands at the end of its column: what stood below would jump away under a finger when it comes.
 */
export function InSight({ children }: { children: ReactNode }) {
	const [near, setNear] = useState(false);
	const above = useIsFetching() > 0; // until it is there, everything is near
	const here = useRef<HTMLDivElement>(null);
	useEffect(() => {
		if (near || above || !here.current) return;
		const watch = new IntersectionObserver(([e]) => e?.isIntersecting && setNear(true), { rootMargin: "100px" });
		watch.observe(here.current);
		return () => watch.disconnect();
	}, [near, above]);
	return near ? children : <div ref={here} data-later className="h-px" />;
}
