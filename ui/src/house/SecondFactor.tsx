import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { sessionQuery } from "../api/session";
import { FormEnd, Input, useServerForm } from "../kit/form";
import { Button, ErrorMessage } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/people";

/** Signing in with an authenticator app as well as the password. */
export function SecondFactor() {
	const { factor } = useSession();
	const cache = useQueryClient();
	const [codes, setCodes] = useState<string[] | null>(null);
	const [removing, setRemoving] = useState(false);
	const begin = useMutation({ mutationFn: () => unwrap(api.POST("/api/second-factor")) });
	const again = () => cache.invalidateQueries({ queryKey: sessionQuery.queryKey });
	return (
		<section aria-label={w.secondFactor}>
			<h2 className="mt-0 mb-1 text-2xl">{w.secondFactor}</h2>
			{codes ? (
				<Codes
					codes={codes}
					onDone={() => {
						setCodes(null);
						begin.reset();
						again();
					}}
				/>
			) : begin.data ? (
				<SetUp app={begin.data} onCancel={() => begin.reset()} onSet={setCodes} />
			) : removing ? (
				<Remove
					onCancel={() => setRemoving(false)}
					onRemoved={() => {
						setRemoving(false);
						again();
					}}
				/>
			) : (
				<>
					<p className="mt-0">{factor ? w.youSignInWithAnApp : w.besidesYourPassword}</p>
					<ErrorMessage error={begin.error} />
					<span className="flex flex-wrap gap-3">
						<Button disabled={begin.isPending} onClick={() => begin.mutate()}>
							{factor ? w.setUpAnotherApp : w.setUpAnApp}
						</Button>
						{factor && <Button onClick={() => setRemoving(true)}>{w.removeSecondFactor}</Button>}
					</span>
				</>
			)}
		</section>
	);
}

const schema = z.object({
	code: z.string().check(z.regex(/^\s*(\d\s*){6}$/, w.enterThe6Digits)),
	password: z.string().check(z.minLength(1, w.enterYourPassword)),
});

function SetUp({ app, onCancel, onSet }: { app: Schemas["NewFactor"]; onCancel: () => void; onSet: (codes: string[]) => void }) {
	const of = useServerForm({
		schema,
		start: { code: "", password: "" },
		send: (v) => unwrap(api.PUT("/api/second-factor", { body: { ...v, secret: app.secret } })),
		onSent: (v) => onSet(v.codes),
	});
	return (
		<form className="grid max-w-md gap-3" onSubmit={of.submit} noValidate>
			<p className="m-0">{w.scanThisWithYourApp}</p>
			<div className="flex flex-wrap items-center gap-5">
				<img src={app.image} alt={w.codeToScan} width={180} height={180} className="border border-rule bg-white p-1" />
				<p className="m-0 max-w-56 text-sm">
					{w.orTypeThisKey}
					<span className="num mt-1 block text-base select-all">{app.secret.match(/.{1,4}/g)?.join(" ")}</span>
				</p>
			</div>
			<Input
				of={of}
				field="code"
				label={w.codeThatTheAppShows}
				inputMode="numeric"
				autoComplete="one-time-code"
				maxLength={10}
				className="num w-40 text-xl"
			/>
			<Input of={of} field="password" label={w.yourPassword} type="password" autoComplete="current-password" />
			<FormEnd of={of} act={w.turnOnSecondFactor} onCancel={onCancel} />
		</form>
	);
}

/** The codes for the day on which the phone is lost; shown once. */
function Codes({ codes, onDone }: { codes: string[]; onDone: () => void }) {
	return (
		<div className="grid gap-3">
			<p className="m-0">{w.keepTheseCodesSafe}</p>
			<ul
				className="num m-0 grid list-none grid-cols-2 gap-x-6 gap-y-1 border border-rule bg-leaf p-4 text-lg"
				aria-label={w.recoveryCodes}
			>
				{codes.map((c) => (
					<li key={c}>{c}</li>
				))}
			</ul>
			<span className="flex flex-wrap gap-3">
				<Button onClick={() => window.print()}>{w.print}</Button>
				<Button variant="primary" onClick={onDone}>
					{w.iHaveSavedTheCodes}
				</Button>
			</span>
		</div>
	);
}

function Remove({ onCancel, onRemoved }: { onCancel: () => void; onRemoved: () => void }) {
	const of = useServerForm({
		schema: z.object({ password: z.string().check(z.minLength(1, w.enterYourPassword)) }),
		start: { password: "" },
		send: (body) => unwrap(api.POST("/api/second-factor/removal", { body })),
		onSent: onRemoved,
	});
	return (
		<form className="grid max-w-sm gap-3" onSubmit={of.submit} noValidate>
			<p className="m-0">{w.fromThenOnThePasswordIsEnough}</p>
			<Input of={of} field="password" label={w.yourPassword} type="password" autoComplete="current-password" />
			<FormEnd of={of} act={w.removeSecondFactor} onCancel={onCancel} />
		</form>
	);
}
