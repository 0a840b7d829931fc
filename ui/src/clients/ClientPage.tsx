import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schemas, unwrap } from "../api/client";
import { briefQuery, clientQuery, libraryQuery } from "../api/queries";
import { SeriesStrips } from "../books";
import {
	asksLetter,
	ClientHistoryText,
	ConsultationPanel,
	History,
	Letters,
	Outcomes,
	PatchTests,
	Planned,
	PreTreatmentCheck,
	WriteLetter,
} from "../checks";
import { ClientHours, ClientSeries } from "../diary";
import { InSight } from "../kit/InSight";
import { Button, Loading, Page } from "../kit/kit";
import { useSession } from "../kit/session";
import { CalendarAddress } from "../portal/CalendarAddress";
import { ClientPageLink } from "../portal/ClientPageLink";
import { Reactions } from "../treatment";
import * as w from "../words/catalogue/clients";
import { Appointments } from "./Appointments";
import { ClientBand } from "./ClientBand";
import { ClientForm, fieldsOf } from "./ClientForm";
import { Consents } from "./Consents";
import { NextAndLast } from "./NextAndLast";
import { PastChecks } from "./PastChecks";
import { PinnedNotes } from "./PinnedNotes";
import { Privacy } from "./Privacy";

/** A client: who it is, today's check, visits. */
export function ClientPage() {
	const { id } = useParams({ from: "/shell/people/$id" });
	const { at, treats, may } = useSession();
	const file = useQuery(clientQuery(id));
	const library = useQuery(libraryQuery);
	const { data: brief } = useQuery({ ...briefQuery(id), enabled: may("get-brief") });
	const [review, setReview] = useState<Schemas["Consultation"] | undefined>();
	const [doing, setDoing] = useState<"look" | "change" | "check">("look");
	const cache = useQueryClient();
	const saved = () => {
		cache.invalidateQueries({ queryKey: ["client", id] });
		cache.invalidateQueries({ queryKey: ["clients"] });
		setDoing("look");
	};
	if (!file.data || !library.data) return <Loading of={w.theClient} error={file.error ?? library.error} retry={() => file.refetch()} />;
	const c = file.data.client;
	const zone = (key: string) => library.data.zones.find((z) => z.key === key)?.name ?? key;
	const latest = file.data.today;
	const current = file.data.validUntil ? file.data.consultations.find((c) => c.reviewedAt)?.history : undefined;
	const history =
		current &&
		(current.medicines?.length ||
			current.allergies?.length ||
			current.concerns?.length ||
			current.homeProducts ||
			current.sleep ||
			current.bedtime)
			? current
			: undefined;
	if (doing === "check")
		return (
			<Page
				title={`${review ? w.consultation : w.preTreatmentCheck}: ${c.name}`}
				action={
					<Button
						variant="quiet"
						onClick={() => {
							setReview(undefined);
							setDoing("look");
						}}
					>
						{w.backToClient}
					</Button>
				}
			>
				<PreTreatmentCheck
					client={id}
					review={review}
					onDone={() => {
						setReview(undefined);
						setDoing("look");
					}}
				/>
			</Page>
		);
	return (
		<>
			<ClientBand
				client={c}
				brief={brief}
				more={
					may("get-progress") && (
						<Link to="/people/$id/progress" params={{ id }} className="font-semibold text-ink underline decoration-rule underline-offset-4">
							{w.openProgress}
						</Link>
					)
				}
				action={
					<>
						{treats && (
							<Button variant={latest ? "plain" : "primary"} onClick={() => setDoing("check")}>
								{latest ? w.repeatCheck : w.startPreTreatmentCheck}
							</Button>
						)}
						{may("hold-series") && (
							<Link
								to="/book"
								search={{ client: id }}
								className={`inline-flex min-h-11 items-center rounded-sm border px-4 font-semibold no-underline ${latest || !treats ? "border-persimmon bg-persimmon text-white" : "border-[#9c8873] bg-leaf text-ink"}`}
							>
								{w.bookAppointment}
							</Link>
						)}
					</>
				}
			/>
			<main className="mx-auto w-full max-w-[1240px] px-5 pt-5 pb-10">
				<div className="grid gap-10 lg:grid-cols-[340px_minmax(0,1fr)]">
					<section aria-label={w.person}>
						{doing === "change" ? (
							<ClientForm
								start={fieldsOf(c)}
								revision={c.revision}
								act={w.save}
								send={(fields, revision) =>
									unwrap(api.PUT("/api/clients/{id}", { params: { path: { id } }, body: { ...fields, revision } }))
								}
								onSent={saved}
								onCancel={() => setDoing("look")}
							/>
						) : (
							<>
								<dl className="m-0 grid grid-cols-[90px_1fr] gap-y-2">
									<Row name={w.skin} value={[c.skinType || (treats && w.skinTypeNotAsked), ...c.skinStates].filter(Boolean).join(", ")} />
									<Row name={w.phototype} value={["", "I", "II", "III", "IV", "V", "VI"][c.phototype] ?? ""} />
									<Row name={w.eMail} value={c.email} />
									<Row name={w.notes} value={c.note} />
									<Row
										name={w.messages}
										value={[c.noMessages && w.noMessages, c.shortMessage && w.shortMessage].filter(Boolean).join(", ")}
									/>
								</dl>
								{may("change-client") && (
									<Button className="mt-4" onClick={() => setDoing("change")}>
										{w.edit}
									</Button>
								)}
								{may("export-cards") && (
									<a
										href={`/api/cards?client=${id}`}
										download="contact.vcf"
										className="ml-4 inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
									>
										{w.contactCard}
									</a>
								)}
								<ClientHours client={id} />
								<Planned client={id} />
								<ClientPageLink client={id} />
								<CalendarAddress client={id} />
								{treats && history && (
									<section aria-label={w.fromTheConsultation} className="mt-8">
										<h2 className="mt-0 mb-2 text-2xl">{w.clientHistory}</h2>
										<ClientHistoryText history={history} concern={(k) => library.data.concerns.find((c) => c.key === k)?.name ?? k} />
									</section>
								)}
								{may("export-client") && <Privacy client={c} />}
								{may("list-consents") && (
									<InSight>
										<Consents client={c} />
									</InSight>
								)}
							</>
						)}
					</section>
					<div className="min-w-0">
						{brief && <NextAndLast brief={brief} />}
						{treats && latest && (
							<div className="leaf mb-6 p-5">
								<p className="mt-0 mb-1 text-sm text-soft">{w.checkedTodayAtAt({ at: at.time(latest.at) })}</p>
								<Outcomes preCheck={latest} zone={zone} />
								{latest.result.outcomes.some(asksLetter) && <WriteLetter client={id} planned={w.aFacialMassage} />}
							</div>
						)}
						<ConsultationPanel
							file={file.data}
							onReview={(r) => {
								setReview(r);
								setDoing("check");
							}}
						/>
						{brief && <PinnedNotes client={id} notes={brief.notes} />}
						<SeriesStrips client={id} />
						<ClientSeries client={id} />
						<Appointments client={id} visits={file.data.visits} more={file.data.moreVisits} />
						{may("list-reactions") && <Reactions client={id} />}
						{may("list-patch-tests") && (
							<InSight>
								<PatchTests client={id} />
							</InSight>
						)}
						{may("list-pre-checks") && (
							<InSight>
								<Letters client={id} />
								<History client={id} />
								<PastChecks client={id} />
							</InSight>
						)}
					</div>
				</div>
			</main>
		</>
	);
}

function Row({ name, value }: { name: string; value: string }) {
	if (!value) return null;
	return (
		<>
			<dt className="text-sm text-soft">{name}</dt>
			<dd className="m-0 break-words">{value}</dd>
		</>
	);
}
