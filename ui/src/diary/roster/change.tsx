import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Button } from "../../kit/kit";
import * as w from "../../words/catalogue/roster";

/** A change of who or what is there; what is booked by it is asked for anew. */
export function useChange<T, A = void>(change: (x: A) => Promise<T>, done?: (t: T) => void) {
	const cache = useQueryClient();
	return useMutation({
		mutationFn: change,
		...(done ? { onSuccess: done } : {}),
		onSettled: () => {
			for (const key of ["roster", "strips", "free", "series", "clashes"]) cache.invalidateQueries({ queryKey: [key] });
		},
	});
}

/** A line of a roster or an absence; it can be removed where onRemove is given. */
export function Row({ text, note, onRemove }: { text: string; note?: string | undefined; onRemove: (() => void) | undefined }) {
	return (
		<li className="flex items-center justify-between gap-3 border-b border-rule py-2">
			<span className="num">
				{text}
				{note && <span className="block text-sm text-soft">{note}</span>}
			</span>
			{onRemove && (
				<Button variant="quiet" aria-label={w.removeOf({ what: text })} onClick={onRemove}>
					{w.remove}
				</Button>
			)}
		</li>
	);
}
