import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { api, ProblemError, type Schemas, unwrap } from "../api/client";
import { sessionQuery } from "../api/session";
import { FaceArt } from "../face/FaceArt";
import { Button, ErrorMessage, Field } from "../kit/kit";
import * as w from "../words/catalogue/house";
import { roleWords } from "../words/sentences";

/** The way in; names the demo's accounts when, and only when, the demo is loaded. */
export function SignInPage({ demo }: { demo: Schemas["DemoSignIn"][] }) {
	const [email, setEmail] = useState("");
	const [password, setPassword] = useState("");
	const [code, setCode] = useState("");
	const cache = useQueryClient();
	const signIn = useMutation({
		mutationFn: () => unwrap(api.POST("/api/sign-in", { body: { email, password, ...(code ? { code } : {}) } })),
		onSuccess: (v) => cache.setQueryData(sessionQuery.queryKey, { ...v, skew: new Date(v.now).getTime() - Date.now() }),
	});
	const forgot = useMutation({ mutationFn: () => unwrap(api.POST("/api/forgotten-password", { body: { email } })) });
	const asked = code !== "" || (signIn.error instanceof ProblemError && signIn.error.problem.code === "code-needed");
	const codeField = useRef<HTMLInputElement>(null);
	useEffect(() => {
		if (asked) codeField.current?.focus();
	}, [asked]);
	return (
		<main className="grid min-h-screen grid-cols-1 md:grid-cols-[1fr_minmax(380px,480px)]">
			<div className="hidden items-end justify-center overflow-hidden bg-leaf md:flex">
				<svg viewBox="-19.5 -24.2 39 41.4" className="block max-h-screen w-full" aria-hidden="true">
					<FaceArt view="front" />
				</svg>
			</div>
			<div className="flex flex-col justify-center px-8 py-10 md:border-l md:border-ink">
				<h1 className="m-0 text-5xl">{w.softPalm}</h1>
				<p className="mt-2 mb-8 text-lg text-soft">{w.protocolsClientsTreatmentRoomFacialMassage}</p>
				<form
					className="grid gap-4"
					onSubmit={(e: FormEvent) => {
						e.preventDefault();
						signIn.mutate();
					}}
				>
					<Field label={w.eMailAddress}>
						{(a) => (
							<input
								{...a}
								className="field"
								type="email"
								autoComplete="username"
								required
								value={email}
								onChange={(e) => setEmail(e.target.value)}
							/>
						)}
					</Field>
					<Field label={w.password}>
						{(a) => (
							<input
								{...a}
								className="field"
								type="password"
								autoComplete="current-password"
								required
								value={password}
								onChange={(e) => setPassword(e.target.value)}
							/>
						)}
					</Field>
					{asked && (
						<Field label={w.codeOfYourApp} hint={w.orARecoveryCode}>
							{(a) => (
								<input
									{...a}
									className="field num w-48 text-xl"
									autoComplete="one-time-code"
									ref={codeField}
									maxLength={20}
									value={code}
									onChange={(e) => setCode(e.target.value)}
								/>
							)}
						</Field>
					)}
					<ErrorMessage error={asked && code === "" ? null : signIn.error} />
					<Button variant="primary" type="submit" disabled={signIn.isPending}>
						{w.signIn}
					</Button>
					{forgot.isSuccess ? (
						<p role="status" className="m-0">
							{w.ifThisAddressBelongsToAnAccount}
						</p>
					) : (
						<Button
							variant="quiet"
							className="-ml-4 justify-self-start"
							disabled={!email || forgot.isPending}
							onClick={() => forgot.mutate()}
						>
							{w.forgottenPassword}
						</Button>
					)}
					<ErrorMessage error={forgot.error} />
				</form>
				{demo.length > 0 && (
					<section aria-label={w.demo} className="mt-8 border-t border-rule pt-4">
						<p className="mt-0 mb-2 text-sm text-soft">{w.demoStudioSignInAs}</p>
						<div className="grid gap-2">
							{demo.map((d) => (
								<button
									key={d.email}
									type="button"
									className="flex min-h-11 items-center justify-between rounded-sm border border-rule bg-leaf px-3 text-left hover:border-ink"
									onClick={() => {
										setEmail(d.email);
										setPassword(d.password);
									}}
								>
									<span>
										<span className="font-semibold">{d.name}</span> <span className="text-soft">· {roleWords[d.role]}</span>
									</span>
									<span className="text-sm text-soft">{d.email}</span>
								</button>
							))}
						</div>
					</section>
				)}
			</div>
		</main>
	);
}
