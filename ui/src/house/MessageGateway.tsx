import { useMutation } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { Input, Select, type ServerForm } from "../kit/form";
import { Button, ErrorMessage } from "../kit/kit";
import * as w from "../words/catalogue/people";

const ports = { tls: 465, starttls: 587, none: 25 };

/** How messages leave the studio: kept for the owner to pass on, or sent by a mail server. */
export function MessageGateway({ of, saved }: { of: ServerForm<Schemas["SettingsView"]>; saved: Schemas["SettingsView"] }) {
	const { register, watch } = of.form;
	const [gateway, security] = watch(["gateway", "mailSecurity"]);
	const test = useMutation({ mutationFn: () => unwrap(api.POST("/api/settings/test-message")) });
	return (
		<section aria-label={w.messages} className="grid gap-x-12 gap-y-3 lg:col-span-2 lg:grid-cols-2">
			<h2 className="m-0 text-2xl lg:col-span-2">{w.messages}</h2>
			<fieldset className="m-0 grid content-start gap-2 border-0 p-0">
				<legend className="sr-only">{w.howMessagesAreSent}</legend>
				{(
					[
						["keep", w.keepMessagesToPassOn],
						["mail", w.sendMessagesByAMailServer],
					] as const
				).map(([v, label]) => (
					<label key={v} className="flex min-h-11 items-center gap-2">
						<input type="radio" className="size-5 shrink-0 accent-persimmon" value={v} {...register("gateway")} />
						{label}
					</label>
				))}
				<p className="m-0 text-sm text-soft">{w.messagesToTelephonesAreAlwaysKept}</p>
			</fieldset>
			{gateway === "mail" && (
				<div className="grid content-start gap-4">
					<div className="grid grid-cols-[2fr_2fr_1fr] items-start gap-3">
						<Input of={of} field="mailServer" label={w.mailServer} maxLength={253} autoComplete="off" />
						<Select
							of={of}
							field="mailSecurity"
							label={w.encryption}
							options={{ tls: w.encryptedByTLS, starttls: w.encryptedBySTARTTLS, none: w.notEncrypted }}
						/>
						<Input of={of} field="mailPort" label={w.port} type="number" min={1} max={65535} placeholder={String(ports[security])} />
					</div>
					<div className="grid grid-cols-2 items-start gap-3">
						<Input of={of} field="mailUser" label={w.userName} maxLength={200} autoComplete="off" />
						<Input
							of={of}
							field="mailPassword"
							label={w.passwordForTheMailServer}
							type="password"
							autoComplete="new-password"
							maxLength={200}
							placeholder={saved.mailPasswordKept ? w.savedLeaveEmptyToKeepIt : ""}
						/>
					</div>
					<Input of={of} field="mailFrom" label={w.messagesComeFrom} hint={w.yourMailProviderTellsYouThese} type="email" maxLength={200} />
					<div>
						<span className="flex flex-wrap items-center gap-4">
							<Button disabled={test.isPending || saved.gateway !== "mail" || of.form.formState.isDirty} onClick={() => test.mutate()}>
								{w.sendTestMessage}
							</Button>
							{test.isSuccess && !of.form.formState.isDirty && <span role="status">{w.theMailServerTookTheTestMessage}</span>}
							{(saved.gateway !== "mail" || of.form.formState.isDirty) && (
								<span className="text-sm text-soft">{w.saveTheSettingsFirst}</span>
							)}
						</span>
						<ErrorMessage error={test.error} />
					</div>
				</div>
			)}
		</section>
	);
}
