import { useMutation } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/treatment";

type View = Schemas["RecordView"];

/** A trainee's record needs somebody else's signature too. */
export function SecondSignature({ view, onSigned }: { view: View; onSigned: (v: View) => void }) {
	const { at, may } = useSession();
	const sign = useMutation({
		mutationFn: () => unwrap(api.POST("/api/visits/{id}/record/second-signature", { params: { path: { id: view.visit.id } } })),
		onSuccess: onSigned,
	});
	const s = view.signature;
	if (!s?.needsSecond) return null;
	if (s.second)
		return (
			<p className="num m-0 mb-4 text-sm">
				{w.secondSignedBy({ name: s.second.by, day: `${at.date(s.second.at)}, ${at.time(s.second.at)}` })}
			</p>
		);
	return (
		<div className="mb-4 flex flex-wrap items-center gap-4 border-l-4 border-slate bg-slate-pale px-4 py-2">
			<span className="font-semibold">{w.secondSignatureNeeded}</span>
			{may("countersign-record") && (
				<Button variant="primary" disabled={sign.isPending} onClick={() => sign.mutate()}>
					{w.signSecond}
				</Button>
			)}
			<ErrorMessage error={sign.error} />
		</div>
	);
}
