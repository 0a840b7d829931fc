import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import * as z from "zod/mini";
import { api, type Schemas, unwrap } from "../api/client";
import { Dialog } from "../kit/Dialog";
import { FormEnd, Input, Lines, Select, Tick, useServerForm } from "../kit/form";
import { dayWords } from "../kit/format";
import { Badge, Button, ErrorMessage, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import * as w from "../words/catalogue/people";
import { roleWords } from "../words/sentences";
import { usualWeek, WeekField } from "./WeekField";

type Colleague = Schemas["Colleague"];

/** Those who work in the studio: invited, changed, gone. */
export function TeamPage() {
	const { at } = useSession();
	const cache = useQueryClient();
	const list = useQuery({ queryKey: ["people"], queryFn: () => unwrap(api.GET("/api/people")) });
	const [editing, setEditing] = useState<Colleague | "new" | null>(null);
	const [link, setLink] = useState<NamedLink | null>(null);
	const again = () => cache.invalidateQueries({ queryKey: ["people"] });
	if (!list.data) return <Loading of={w.theTeam} error={list.error} retry={() => list.refetch()} />;
	return (
		<Page
			title={w.team}
			action={
				!editing && (
					<Button variant="primary" onClick={() => setEditing("new")}>
						{w.invitePerson}
					</Button>
				)
			}
		>
			<div className={editing ? "grid gap-10 lg:grid-cols-[minmax(0,1fr)_440px]" : ""}>
				<ul className="m-0 list-none p-0">
					{list.data.map((c) => (
						<li key={c.id} className="flex flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule py-3">
							<span className="grid size-11 place-content-center rounded-full border border-ink font-semibold" aria-hidden="true">
								{c.mark || initials(c.name)}
							</span>
							<span className="min-w-52 flex-1">
								<span className={`block font-semibold ${c.state === "closed" ? "text-soft" : ""}`}>{c.name}</span>
								<span className="block text-sm text-soft">
									{roleWords[c.role]} · {c.email}
								</span>
								{c.licences.length > 0 && (
									<span className="block text-sm text-soft">{c.licences.map((l) => licenceText(l)).join(" · ")}</span>
								)}
							</span>
							<span className="flex flex-wrap items-center gap-2">
								{c.state !== "active" && <Badge tone="not-before">{c.state === "invited" ? w.invited : w.hasLeft}</Badge>}
								{c.factor && <Badge tone="go">{w.secondFactor}</Badge>}
								{c.seenAt && (
									<span className="num text-sm text-soft">{w.lastHereDay({ day: `${at.date(c.seenAt)}, ${at.time(c.seenAt)}` })}</span>
								)}
							</span>
							{c.state === "closed" ? (
								<NewLink of={c} act={w.inviteAgain} onLink={setLink} onDone={again} />
							) : (
								<Button onClick={() => setEditing(c)}>{w.edit}</Button>
							)}
						</li>
					))}
				</ul>
				{editing && (
					<section aria-label={editing === "new" ? w.invitePerson : editing.name}>
						<h2 className="mt-0 mb-3 text-2xl">{editing === "new" ? w.invitePerson : editing.name}</h2>
						<PersonForm
							key={editing === "new" ? "new" : editing.id}
							of={editing === "new" ? null : editing}
							onCancel={() => setEditing(null)}
							onInvited={(l) => {
								setEditing(null);
								setLink(l);
								again();
							}}
							onSaved={() => {
								setEditing(null);
								again();
							}}
						/>
						{editing !== "new" && (
							<Acts
								of={editing}
								onLink={setLink}
								onDone={() => {
									setEditing(null);
									again();
								}}
							/>
						)}
					</section>
				)}
			</div>
			<LinkDialog link={link} onClose={() => setLink(null)} />
		</Page>
	);
}

const initials = (name: string) =>
	name
		.split(/\s+/)
		.map((n) => n[0] ?? "")
		.slice(0, 2)
		.join("");

const licenceText = (l: Schemas["Licence"]) =>
	[l.name, l.number, l.until && w.untilDay({ day: dayWords(l.until) })].filter(Boolean).join(", ");

type Fields = {
	name: string;
	email: string;
	role: Colleague["role"];
	treats: boolean;
	week: Colleague["week"];
	mark: string;
	skills: string;
	licences: string;
};

/** Licences as they are typed, one a line: what, number, last day. */
const licenceLines = (list: readonly Schemas["Licence"][]) => list.map((l) => [l.name, l.number, l.until].join("; ")).join("\n");
const licencesOf = (text: string): Schemas["Licence"][] =>
	text
		.split("\n")
		.filter((line) => line.trim())
		.map((line) => {
			const [name = "", number = "", until = ""] = line.split(";").map((x) => x.trim());
			return { name, number, until };
		});

const schema = z.object({
	name: z.string().check(z.trim(), z.minLength(1, w.enterTheName)),
	email: z.string().check(z.trim(), z.minLength(3, w.enterTheEMailAddress)),
	role: z.string(),
	treats: z.boolean(),
	week: z.any(),
	mark: z.string(),
	skills: z.string(),
	licences: z.string(),
}) as unknown as z.ZodMiniType<Fields, Fields>;

function PersonForm({
	of: c,
	onCancel,
	onInvited,
	onSaved,
}: {
	of: Colleague | null;
	onCancel: () => void;
	onInvited: (link: NamedLink) => void;
	onSaved: () => void;
}) {
	const revision = useRef(c?.revision ?? 0);
	const of = useServerForm({
		schema,
		start: {
			name: c?.name ?? "",
			email: c?.email ?? "",
			role: c?.role ?? "practitioner",
			treats: c ? c.treats : true,
			week: c?.treats ? c.week : usualWeek,
			mark: c?.mark ?? "",
			skills: c?.skills.join(", ") ?? "",
			licences: licenceLines(c?.licences ?? []),
		} as Fields,
		send: async ({ email, ...v }: Fields) => {
			const fields = {
				...v,
				treats: v.treats && treating.includes(v.role),
				skills: v.skills
					.split(",")
					.map((x) => x.trim())
					.filter(Boolean),
				licences: licencesOf(v.licences),
			};
			if (c)
				return unwrap(
					api.PUT("/api/people/{id}", { params: { path: { id: c.id } }, body: { ...fields, revision: revision.current } }),
				).then(() => null);
			return unwrap(api.POST("/api/people", { body: { ...fields, email } }));
		},
		onSent: (link, v) => (link ? onInvited({ who: v.name, ...link }) : onSaved()),
	});
	const theirs = of.changed?.person;
	if (theirs) revision.current = theirs.revision;
	const role = of.form.watch("role");
	const treats = of.form.watch("treats");
	return (
		<form className="grid gap-4" onSubmit={of.submit} noValidate>
			<Input of={of} field="name" label={w.name} maxLength={120} />
			<Input of={of} field="email" label={w.eMailAddress} type="email" maxLength={200} readOnly={Boolean(c)} />
			<div className="grid grid-cols-[2fr_1fr] gap-3">
				<Select of={of} field="role" label={w.role} hint={roleHints[role]} options={roleWords} />
				<Input of={of} field="mark" label={w.mark} hint={w.oneToThreeLetters} maxLength={3} />
			</div>
			{treating.includes(role) && (
				<>
					<Tick of={of} field="treats" label={w.clientsAreBookedWithThisPerson} />
					{treats && <WeekField of={of} field="week" label={w.workingHours} />}
					{treats && <Input of={of} field="skills" label={w.skills} hint={w.withCommasBetweenThem} />}
				</>
			)}
			{treats && treating.includes(role) && <Lines of={of} field="licences" label={w.licences} hint={w.oneALine} />}
			{theirs && (
				<p className="m-0 border-l-4 border-persimmon pl-3">
					{w.somebodySavedNameMeanwhile({ name: theirs.name, role: roleWords[theirs.role] ?? theirs.role })}
				</p>
			)}
			<FormEnd of={of} act={c ? w.savePerson : w.createInvitation} onCancel={onCancel} />
		</form>
	);
}

const treating: readonly string[] = ["owner", "practitioner", "trainee"];
const roleHints: Record<string, string> = {
	owner: w.ownersDoEverything,
	practitioner: w.practitionersTreatEverybody,
	trainer: w.trainersSeeProtocols,
	trainee: w.traineesTreatTheirOwn,
	"front-desk": w.theFrontDeskSeesNoHealth,
};

type NamedLink = Schemas["JoinLinkView"] & { who: string };
type LinkProps = { of: Colleague; onLink: (l: NamedLink) => void; onDone: () => void };

function NewLink({ of: c, act, onLink, onDone }: LinkProps & { act: string }) {
	const link = useMutation({
		mutationFn: () => unwrap(api.POST("/api/people/{id}/password-link", { params: { path: { id: c.id } } })),
		onSuccess: (l) => {
			onDone();
			onLink({ who: c.name, ...l });
		},
	});
	return (
		<>
			<Button disabled={link.isPending} onClick={() => link.mutate()}>
				{act}
			</Button>
			<ErrorMessage error={link.error} />
		</>
	);
}

/** What can be done about somebody besides changing what is written. */
function Acts({ of: c, onLink, onDone }: LinkProps) {
	const [leaving, setLeaving] = useState(false);
	const leave = useMutation({
		mutationFn: () => unwrap(api.POST("/api/people/{id}/leaving", { params: { path: { id: c.id } } })),
		onSuccess: onDone,
	});
	const factor = useMutation({
		mutationFn: () => unwrap(api.POST("/api/people/{id}/second-factor/removal", { params: { path: { id: c.id } } })),
		onSuccess: onDone,
	});
	return (
		<div className="mt-6 flex flex-wrap gap-3 border-t border-rule pt-4">
			<NewLink of={c} act={c.state === "invited" ? w.newInvitation : w.newPasswordLink} onLink={onLink} onDone={onDone} />
			{c.factor && <Button onClick={() => factor.mutate()}>{w.removeSecondFactor}</Button>}
			<Button onClick={() => setLeaving(true)}>{w.closeAccount}</Button>
			<ErrorMessage error={factor.error} />
			<Dialog open={leaving} onClose={() => setLeaving(false)} title={w.closeThisAccount}>
				<p className="mt-0">{w.nameCanNoLongerSignIn({ name: c.name })}</p>
				<ErrorMessage error={leave.error} />
				<div className="flex justify-end gap-3">
					<Button autoFocus onClick={() => setLeaving(false)}>
						{w.keepAccount}
					</Button>
					<Button variant="primary" disabled={leave.isPending} onClick={() => leave.mutate()}>
						{w.closeAccount}
					</Button>
				</div>
			</Dialog>
		</div>
	);
}

/** A link that is shown once, to be passed on. */
function LinkDialog({ link, onClose }: { link: NamedLink | null; onClose: () => void }) {
	const { at } = useSession();
	const [copied, setCopied] = useState(false);
	const address = link ? `${window.location.origin}/join#${link.token}` : "";
	return (
		<Dialog
			open={Boolean(link)}
			onClose={() => {
				setCopied(false);
				onClose();
			}}
			title={link ? w.linkForName({ name: link.who }) : ""}
		>
			<p className="mt-0 mb-4">
				{link && (link.mailed ? w.theLinkIsSentByEMailToo : w.passThisLinkOn)({ until: `${at.date(link.until)}, ${at.time(link.until)}` })}
			</p>
			<p className="num hidden break-all print:block">{address}</p>
			<input className="field num print:hidden" readOnly aria-label={w.link} value={address} onFocus={(e) => e.target.select()} />
			<div className="mt-4 flex justify-end gap-3">
				<Button onClick={() => window.print()}>{w.print}</Button>
				<Button variant="primary" onClick={() => navigator.clipboard.writeText(address).then(() => setCopied(true))}>
					{copied ? w.copied : w.copyLink}
				</Button>
			</div>
		</Dialog>
	);
}
