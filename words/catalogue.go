// Code generated from words/en.json by words/generate. DO NOT EDIT.

package words

var Sides = map[string]string{
	"mid":    "midline",
	"both":   "both sides together",
	"turns":  "left, then right",
	"left":   "left",
	"right":  "right",
	"first":  "first side",
	"second": "second side",
	"across": "across the face",
}

var Phases = map[string]string{
	"settle":    "Settle in",
	"look-over": "Skin analysis",
	"cleanse":   "Cleanse",
	"prepare":   "Prepare",
	"apply":     "Apply product",
	"open":      "Open drainage",
	"work":      "Massage",
	"exercises": "Facial exercises",
	"compare":   "Compare sides",
	"close":     "Close drainage",
	"finish":    "Finish",
	"wake":      "Wake and sit up",
	"reset":     "Reset the room",
}

var PressurePatterns = map[string]string{
	"even":       "even",
	"builds":     "builds to the end",
	"eases":      "eases at the end",
	"light-back": "light on the way back",
	"own-weight": "the tool’s own weight",
}

var Headlines = map[string]string{
	"go":               "OK to treat",
	"go-with-changes":  "OK with adjustments",
	"needs-letter":     "Doctor’s letter needed",
	"not-before":       "Not before",
	"not-here":         "Do not treat today",
	"urgent":           "Urgent: get medical help now",
	"can-be-booked":    "Can be booked",
	"ask-practitioner": "Ask the practitioner",
}

var Kinds = map[string]string{
	"urgent":    "get medical help now",
	"stop":      "do not treat; see a doctor first",
	"wait":      "waiting period",
	"letter":    "doctor’s letter needed",
	"leave-out": "avoid area",
	"cap":       "lighter pressure",
	"exclude":   "do not use",
	"mind":      "precaution",
}

var Preferences = map[string]string{
	"lighter": "lighter pressure",
	"firmer":  "firmer pressure",
}

var AppointmentStates = map[string]string{
	"booked":         "booked",
	"confirmed":      "confirmed",
	"arrived":        "arrived",
	"in-room":        "in treatment",
	"done":           "completed",
	"cancelled":      "cancelled",
	"late-cancelled": "cancelled late",
	"no-show":        "no-show",
	"held":           "held",
	"lapsed":         "lapsed",
	"released":       "released",
	"broken-off":     "stopped early",
}

var SeriesStates = map[string]string{
	"offered":    "held",
	"running":    "running",
	"paused":     "paused",
	"finished":   "finished",
	"broken-off": "broken off",
	"lapsed":     "lapsed",
}

var Pressures = []string{"resting", "feather-light", "light", "medium", "firm", "deep"}

var FurtherFields = map[string]string{
	"direction":              "Direction",
	"towards":                "Towards which zone",
	"crease":                 "The crease runs",
	"tempo":                  "Tempo",
	"ending":                 "Ending",
	"whichHand":              "Which hand",
	"handChoice":             "Any of these hand parts",
	"alsoFamilies":           "Also a kind of",
	"actsOn":                 "Acts on",
	"pressureMost":           "Pressure up to",
	"pressureAs":             "Pressure against before",
	"rows.from":              "Rows from",
	"rows.to":                "Rows to",
	"rows.least":             "Rows at least",
	"rows.most":              "Rows at most",
	"rows.untilCovered":      "Rows until covered",
	"tenderSeconds":          "Extra seconds at a tender spot",
	"works":                  "Works",
	"resistance.by":          "Resistance by",
	"resistance.direction":   "Resistance pushes",
	"resistance.towards":     "Resistance towards",
	"score.what":             "Score of",
	"score.zone":             "Score at",
	"score.when":             "Score asked",
	"score.most":             "Top of the score",
	"condition":              "Only when",
	"find":                   "How to find the place",
	"cue":                    "How to do it",
	"caution":                "Caution",
	"clears":                 "Not as the stroke says",
	"use.most":               "Amount up to",
	"use.choices":            "Or one of these products",
	"use.blend":              "Blended in the palm",
	"use.optional":           "Product optional",
	"use.for":                "Product for",
	"anchor.second.zone":     "Other hand, second contact",
	"anchor.second.hand":     "Second contact with",
	"anchor.second.pressure": "Pressure of the second contact",
	"part":                   "Part of the zone",
	"cm":                     "Distance in cm",
	"landmark":               "From",
	"when":                   "When",
	"does":                   "What to do",
	"hand":                   "Hand part",
	"stroke":                 "Stroke",
	"leaveOut":               "Leave it out",
	"excerpt":                "An excerpt of a longer plan",
	"sittings":               "The sections are sittings of their own",
	"preconditions":          "Before it begins",
	"layOut":                 "To lay out",
	"howOften.least":         "How often, at least",
	"howOften.most":          "How often, at most",
	"howOften.per":           "In a",
	"howOften.days":          "For days",
	"howOften.then":          "And then",
	"trigger":                "When it is for",
	"sittingsADay":           "Sittings a day",
	"timesOfDay":             "Times of day",
	"minutes.target":         "Minutes recommended",
	"minutes.handsOnSeconds": "Seconds beside the minutes",
	"advice":                 "Advice",
	"product":                "Product",
	"days":                   "For days",
	"text":                   "Cue",
	"every":                  "Every s",
	"seconds":                "Takes s",
	"break":                  "A break of the hands",
	"least":                  "At least",
	"most":                   "At most",
	"counts":                 "Seconds are of one count",
	"offPicture":             "Where",
	"sense":                  "Way round of circles",
	"sign":                   "Sign to look for",
	"anchor.zone":            "Other hand at",
	"anchor.hand":            "Other hand with",
	"anchor.pressure":        "Pressure of the other hand",
	"anchor.role":            "What the other hand does",
	"zone":                   "At",
	"pressure":               "Pressure",
	"fingers":                "Single fingers",
	"alternates":             "Instead",
	"anchor":                 "Other hand",
}

var FurtherWords = map[string]string{
	"along":               "along the path",
	"across":              "across",
	"towards-hairline":    "towards the hairline",
	"multi":               "every way round",
	"up":                  "up",
	"down":                "down",
	"in":                  "in",
	"out":                 "out",
	"towards":             "towards a zone",
	"apart":               "apart",
	"together":            "together",
	"any":                 "free",
	"even":                "even",
	"slow":                "slow",
	"slows":               "slows to the end",
	"breath":              "with the breath",
	"quick":               "quick",
	"hold":                "hold",
	"wiggle":              "wiggle",
	"press-temple":        "press at the temple",
	"lift-off":            "lift off",
	"carries-on":          "the next begins here",
	"same-side":           "hand of that side",
	"opposite-side":       "hand of the other side",
	"left":                "left",
	"right":               "right",
	"either":              "either",
	"changes":             "they change",
	"up-to-if-it-suits":   "up to, if it suits",
	"deeper-than-before":  "deeper than before",
	"lighter-than-before": "lighter than before",
	"before":              "before",
	"after":               "after",
	"both":                "before and after",
	"upper":               "upper part",
	"lower":               "lower part",
	"inner":               "inner part",
	"outer":               "outer part",
	"gum-line":            "gum line",
	"past-last-tooth":     "past the last tooth",
	"day":                 "day",
	"week":                "week",
	"month":               "month",
	"morning":             "morning",
	"evening":             "evening",
	"bedtime":             "bedtime",
	"clean-skin":          "on clean skin",
	"mirror":              "mirror",
	"tissues":             "tissues",
	"table":               "table",
	"sponge":              "sponge",
	"long-nails":          "long nails",
	"no-tool":             "no tool",
	"too-strong":          "too strong",
	"stalled":             "the hand stalls",
	"beard":               "beard",
	"lashes":              "lash extensions",
}

var Areas = map[string]string{
	"whole-face":          "the whole face",
	"face-neck-decollete": "face, neck, décolleté",
}

var Figures = map[string]string{
	"glide":          "glides",
	"feathering":     "feathers",
	"circle":         "circles on the spot",
	"spiral":         "circles that travel",
	"zigzag":         "zigzags",
	"whip":           "short whips",
	"past":           "hands past each other",
	"fork":           "two fingers along an edge",
	"vibrate":        "trembles",
	"pinches":        "pinches, place by place",
	"knead":          "kneads",
	"skin-roll":      "rolls a fold ahead",
	"taps":           "taps",
	"pump":           "presses and lets come back",
	"hold":           "holds",
	"hand-over-hand": "hand over hand",
	"stretch":        "stretches from a held end",
	"loop":           "round and back to the start",
	"roll":           "rolls out and comes back light",
	"area":           "zone by zone",
	"client":         "the client moves",
}

var MovementKinds = map[string]string{
	"receive":    "delivery",
	"make":       "into a batch",
	"made":       "batch made",
	"treatment":  "treatment",
	"patch-test": "patch test",
	"waste":      "waste",
	"tester":     "tester",
	"retail":     "sold",
	"return":     "returned by client",
	"send-back":  "sent back",
	"dispose":    "discarded",
	"stocktake":  "stocktake",
	"counter":    "taken back",
}

var DayItems = map[string]string{
	"left-from-yesterday": "Left from yesterday evening",
	"fridge":              "Fridge temperature",
	"warmer":              "Towel warmer temperature",
	"bottles":             "Bottles good today",
	"notices":             "Recalls and blocked lots",
	"baths":               "Disinfectant bath made and good",
	"tools":               "Tools ready for each appointment",
	"linen":               "Clean linen for the day",
	"disposables":         "Disposables for the day",
	"set-up":              "Set-up amounts laid out",
	"hands-and-first-aid": "Hand soap, towels, first-aid box",
	"records":             "All records of the day signed",
	"bottles-shut":        "Bottles wiped and shut",
	"spills":              "Spills written down",
	"tools-away":          "Tools cleaned, dried, put away or chilled",
	"baths-discarded":     "Baths discarded if due",
	"hamper":              "Hamper out, wash started",
	"bin-and-surfaces":    "Bin out, surfaces wiped",
	"last-day-tonight":    "Bottles that end tonight discarded or moved",
	"order-list":          "Order list looked at",
}

var Measures = map[string]string{
	"drops":    "drops",
	"presses":  "pumps",
	"spatulas": "spatulas",
	"ftu":      "fingertip units",
}

var RoomMarks = map[string]string{
	"tender":  "Tender",
	"redness": "Red",
	"product": "Added",
}

var ReactionKinds = map[string]string{
	"redness":   "Redness",
	"itching":   "Itching",
	"burning":   "Burning or stinging",
	"swelling":  "Swelling",
	"hives":     "Raised, itchy patches",
	"rash":      "Rash",
	"blisters":  "Blisters",
	"breakout":  "Spots",
	"bruise":    "Bruise",
	"soreness":  "Soreness",
	"eyes":      "Sore or watering eyes",
	"dizziness": "Dizziness",
	"other":     "Something else",
}

var ReactionGrades = map[string]string{
	"0": "Expected: gone within a day",
	"1": "Mild: nothing was needed",
	"2": "Moderate: over a day, or something was needed",
	"3": "Severe: swelling, blisters, spreading patches, or a doctor",
	"4": "Emergency: lips, tongue, throat, breathing or sight",
}

var IncidentKinds = map[string]string{
	"fall":        "Fall",
	"broken-tool": "Broken tool",
	"burn":        "Burn",
	"cut":         "Cut",
	"power-cut":   "Power cut",
	"walked-out":  "Client left early",
	"other":       "Something else",
}

var ReactionNow = map[string]string{
	"better":      "Better",
	"same":        "The same",
	"worse":       "Worse",
	"gone":        "Gone",
	"not-reached": "Not reached",
}

var ReactionOutcomes = map[string]string{
	"settled": "Settled",
	"doctor":  "Referred to a doctor",
	"mistake": "Recorded by mistake",
}

var RecordFields = map[string]string{
	"note":       "treatment notes",
	"said":       "what the client said",
	"advice":     "advice given",
	"broken-off": "stopped early",
	"used":       "amount used",
	"lot":        "lot",
}

var MeasureNames = map[string]string{
	"outer-eye-mouth": "Outer eye corner to mouth corner",
	"tragus-mouth":    "Ear (tragus) to mouth corner",
	"tragus-chin":     "Ear (tragus) to chin",
	"brow-pupil":      "Brow peak to pupil line",
	"lid-opening":     "Lid opening",
	"jaw-opening":     "Jaw opening, between the front teeth",
	"mouth-tilt":      "Tilt of the mouth",
	"puffiness":       "Puffiness, eye",
	"puffiness-jaw":   "Puffiness, jaw",
	"redness":         "Redness",
	"tension":         "Tension",
	"tenderness":      "Tenderness",
	"breathing-ease":  "Breathing ease",
	"head-pressure":   "Head pressure",
}

var Instruments = map[string]string{
	"caliper": "Caliper",
	"tape":    "Tape",
	"photo":   "Photo",
	"grade":   "Grade",
}

var MeasuredMoments = map[string]string{
	"before": "before treatment",
	"after":  "after treatment",
}

var WaysToPay = map[string]string{
	"cash":    "cash",
	"card":    "card",
	"bank":    "bank transfer",
	"later":   "later",
	"voucher": "voucher",
	"deposit": "deposit",
}

var CardStates = map[string]string{
	"asked":      "asking the terminal",
	"approved":   "approved",
	"declined":   "declined",
	"unknown":    "no answer yet",
	"stored":     "stored, the terminal is offline",
	"refused":    "refused",
	"cancelling": "being cancelled",
	"reversed":   "reversed",
}

var Accounts = map[string]string{
	"cash":             "Cash in the till",
	"bank":             "Bank",
	"card":             "With the card company",
	"owed-by-clients":  "Owed by clients",
	"stock":            "Stock",
	"input-tax":        "Tax paid to suppliers",
	"suppliers":        "Owed to suppliers",
	"series-owed":      "Series paid ahead",
	"vouchers-owed":    "Vouchers",
	"deposits-owed":    "Deposits",
	"output-tax":       "Tax owed",
	"tips-owed":        "Tips owed",
	"commission-owed":  "Commission owed",
	"owner":            "Owner",
	"treatments":       "Treatments",
	"retail":           "Products sold",
	"fees":             "Fees",
	"breakage":         "Lapsed and kept",
	"products-used":    "Products used",
	"retail-cost":      "Cost of products sold",
	"waste":            "Waste",
	"stock-difference": "Stock differences",
	"card-fees":        "Card fees",
	"commission":       "Commission",
	"cash-difference":  "Till differences",
	"rounding":         "Rounding",
}

func StandardEmergencyText() Sentence {
	return Sentence{Code: "standardEmergencyText", Message: "See how the client is. In an emergency call the local emergency number (112 in Europe) and say where you are. Stay with the client and do what the operator says. Send somebody to the door to meet the ambulance."}
}

func SayWhyTheStudioIsClosed() Sentence {
	return Sentence{Code: "sayWhyTheStudioIsClosed", Message: "Enter why the studio is closed, such as Holidays. The front desk sees it."}
}

func StudioIsClosedUntilReason(day, reason any) Sentence {
	return Sentence{Code: "studioIsClosedUntilReason", Message: "The studio is closed until " + text(day) + ": " + text(reason) + ". Choose a later day.", Values: map[string]string{"day": text(day), "reason": text(reason)}}
}

func TheLastDayIsNotBeforeTheFirst() Sentence {
	return Sentence{Code: "theLastDayIsNotBeforeTheFirst", Message: "Enter a last day that is not before the first."}
}

func ChooseAPractitionerOfTheStudio() Sentence {
	return Sentence{Code: "chooseAPractitionerOfTheStudio", Message: "Choose a practitioner who works in this studio."}
}

func PersonDoesNotWorkAtThisTime(name any) Sentence {
	return Sentence{Code: "personDoesNotWorkAtThisTime", Message: text(name) + " does not work at this time. Choose another time or another practitioner.", Values: map[string]string{"name": text(name)}}
}

func ThisFileHoldsNoRules() Sentence {
	return Sentence{Code: "thisFileHoldsNoRules", Message: "This file holds no rules. Choose a file of standard rules."}
}

func EnterAnAmountUpToMost(most any) Sentence {
	return Sentence{Code: "enterAnAmountUpToMost", Message: "Enter an amount up to " + text(most) + ", with at most three decimal places.", Values: map[string]string{"most": text(most)}}
}

func EnterASumUpToMost(most any) Sentence {
	return Sentence{Code: "enterASumUpToMost", Message: "Enter a sum from 0 to " + text(most) + ", with at most two decimal places.", Values: map[string]string{"most": text(most)}}
}

func EnterADayBetween(first, last any) Sentence {
	return Sentence{Code: "enterADayBetween", Message: "Enter a day between " + text(first) + " and " + text(last) + ", as year-month-day.", Values: map[string]string{"first": text(first), "last": text(last)}}
}

func BookAtMostTwoYearsAhead() Sentence {
	return Sentence{Code: "bookAtMostTwoYearsAhead", Message: "Appointments can be booked at most two years ahead. Choose an earlier day."}
}

func EnterTheNameOfTheStudio() Sentence {
	return Sentence{Code: "enterTheNameOfTheStudio", Message: "Enter the name of the studio."}
}

func ACurrencyHasThreeLetters() Sentence {
	return Sentence{Code: "aCurrencyHasThreeLetters", Message: "Enter the currency as three letters, such as EUR."}
}

func SetUpYourOwnSecondFactorFirst() Sentence {
	return Sentence{Code: "setUpYourOwnSecondFactorFirst", Message: "Set up your own second factor first. You find it under Your account."}
}

func EnterYourName() Sentence {
	return Sentence{Code: "enterYourName", Message: "Enter your name."}
}

func EnterYourEMailAddress() Sentence {
	return Sentence{Code: "enterYourEMailAddress", Message: "Enter your e-mail address. You sign in with it."}
}

func ARoomHasAName() Sentence {
	return Sentence{Code: "aRoomHasAName", Message: "Enter a name for every room."}
}

func AStudioHasARoom() Sentence {
	return Sentence{Code: "aStudioHasARoom", Message: "Add at least one room."}
}

func ThereIsAStudioAlreadySignIn() Sentence {
	return Sentence{Code: "thereIsAStudioAlreadySignIn", Message: "This studio has been set up already. Sign in."}
}

func SetUpYourSecondFactorFirst() Sentence {
	return Sentence{Code: "setUpYourSecondFactorFirst", Message: "Owners of this studio sign in with a second factor. Set it up first."}
}

func ThisIsTooLargeToSend() Sentence {
	return Sentence{Code: "thisIsTooLargeToSend", Message: "This is too large to send. Sign in first, or choose a smaller file."}
}

func EnterTheName() Sentence {
	return Sentence{Code: "enterTheName", Message: "Enter the name."}
}

func ChooseARole() Sentence {
	return Sentence{Code: "chooseARole", Message: "Choose a role."}
}

func ThisRoleDoesNotTreatClients() Sentence {
	return Sentence{Code: "thisRoleDoesNotTreatClients", Message: "This role does not treat clients. Choose another role, or do not tick that they treat clients."}
}

func ASkillHasAtMost80Characters() Sentence {
	return Sentence{Code: "aSkillHasAtMost80Characters", Message: "A skill has at most 80 characters."}
}

func HoursEndAfterTheyBegin() Sentence {
	return Sentence{Code: "hoursEndAfterTheyBegin", Message: "Hours end after they begin. Correct the times of this day."}
}

func ThisAccountIsClosedInviteAgain() Sentence {
	return Sentence{Code: "thisAccountIsClosedInviteAgain", Message: "This account is closed. Invite the person again first."}
}

func ThisPersonHasNAppointmentsToCome(n any) Sentence {
	return Sentence{Code: "thisPersonHasNAppointmentsToCome", Message: "This person still has appointments to come: " + text(n) + ". Move or cancel them first.", Values: map[string]string{"n": text(n)}}
}

func AStudioNeedsAnOwner() Sentence {
	return Sentence{Code: "aStudioNeedsAnOwner", Message: "A studio needs an owner who can sign in. Make somebody else an owner first."}
}

func EnterEMailAddressOfThisPerson() Sentence {
	return Sentence{Code: "enterEMailAddressOfThisPerson", Message: "Enter this person’s e-mail address."}
}

func EnterTheNameOfTheMailServer() Sentence {
	return Sentence{Code: "enterTheNameOfTheMailServer", Message: "Enter the name of the mail server, such as mail.example.org."}
}

func EnterThePortOfTheMailServer() Sentence {
	return Sentence{Code: "enterThePortOfTheMailServer", Message: "Enter the port of the mail server. 465 and 587 are usual."}
}

func MailToAnotherMachineIsEncrypted() Sentence {
	return Sentence{Code: "mailToAnotherMachineIsEncrypted", Message: "Messages to another machine are encrypted. Choose TLS or STARTTLS."}
}

func EnterThePasswordOfTheMailServer() Sentence {
	return Sentence{Code: "enterThePasswordOfTheMailServer", Message: "Enter the password for the mail server. It is asked for again when the server, the port, the encryption or the user changes."}
}

func EnterTheAddressThatMessagesComeFrom() Sentence {
	return Sentence{Code: "enterTheAddressThatMessagesComeFrom", Message: "Enter the e-mail address that messages come from, with an @."}
}

func SaveTheMailServerFirst() Sentence {
	return Sentence{Code: "saveTheMailServerFirst", Message: "No mail server is set up. Enter one and save the settings first."}
}

func ThisMessageCannotBeSent() Sentence {
	return Sentence{Code: "thisMessageCannotBeSent", Message: "This message cannot be sent: its link has ended, it goes to a telephone number, or no mail server is set up."}
}

func TheMailServerRefusedIt(why any) Sentence {
	return Sentence{Code: "theMailServerRefusedIt", Message: "The mail server refused it: " + text(why), Values: map[string]string{"why": text(why)}}
}

func TheMailServerCouldNotBeReached(why any) Sentence {
	return Sentence{Code: "theMailServerCouldNotBeReached", Message: "The mail server could not be reached: " + text(why), Values: map[string]string{"why": text(why)}}
}

func SubjectConsultation(studio any) Sentence {
	return Sentence{Code: "subjectConsultation", Message: "Before your appointment at " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func SubjectInvitation(studio any) Sentence {
	return Sentence{Code: "subjectInvitation", Message: "Your invitation to " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func SubjectReset(studio any) Sentence {
	return Sentence{Code: "subjectReset", Message: "Choose a new password for " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func SubjectTest(studio any) Sentence {
	return Sentence{Code: "subjectTest", Message: "Test message from " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func MessageTest(studio any) Sentence {
	return Sentence{Code: "messageTest", Message: "This is a test message from Soft Palm at " + text(studio) + ". Messages to clients and colleagues are sent this way.", Values: map[string]string{"studio": text(studio)}}
}

func ATaxRateIsFrom0To100() Sentence {
	return Sentence{Code: "aTaxRateIsFrom0To100", Message: "A tax rate is a number from 0 to 100 with at most three decimals, such as 23 or 8.875. Leave it empty if you charge no tax."}
}

func EnterWhatTheTaxIsCalled() Sentence {
	return Sentence{Code: "enterWhatTheTaxIsCalled", Message: "Enter what the tax is called, such as VAT."}
}

func AnAdditionHasUpToCharacters(most any) Sentence {
	return Sentence{Code: "anAdditionHasUpToCharacters", Message: "Write what you want to add, up to " + text(most) + " characters.", Values: map[string]string{"most": text(most)}}
}

func ThisRecordIsStillOpenWriteInIt() Sentence {
	return Sentence{Code: "thisRecordIsStillOpenWriteInIt", Message: "This record is still open. Write in its notes."}
}

func SayWhyTheAppointmentIsCancelled() Sentence {
	return Sentence{Code: "sayWhyTheAppointmentIsCancelled", Message: "Say why the appointment is cancelled."}
}

func CancellingCanBeUndoneForAMinute() Sentence {
	return Sentence{Code: "cancellingCanBeUndoneForAMinute", Message: "A cancellation can be undone for a minute, by the person who cancelled. Book the appointment again."}
}

func MessageInvitation(name, studio, link, until any) Sentence {
	return Sentence{Code: "messageInvitation", Message: "Dear " + text(name) + ",\n\nyou are invited to work with Soft Palm at " + text(studio) + ". Choose your password here:\n\n" + text(link) + "\n\nThe link is valid until " + text(until) + ". It is only for you.", Values: map[string]string{"name": text(name), "studio": text(studio), "link": text(link), "until": text(until)}}
}

func MessageReset(name, studio, link, until any) Sentence {
	return Sentence{Code: "messageReset", Message: "Dear " + text(name) + ",\n\nchoose a new password for Soft Palm at " + text(studio) + ":\n\n" + text(link) + "\n\nThe link is valid until " + text(until) + ". If you did not ask for it, tell the owner.", Values: map[string]string{"name": text(name), "studio": text(studio), "link": text(link), "until": text(until)}}
}

func ThisLinkHasEndedAskTheOwner() Sentence {
	return Sentence{Code: "thisLinkHasEndedAskTheOwner", Message: "This link has ended. Ask the owner of the studio for a new one."}
}

func APasswordHasFromToCharacters(from, to any) Sentence {
	return Sentence{Code: "aPasswordHasFromToCharacters", Message: "A password has from " + text(from) + " to " + text(to) + " characters. A short sentence is easy to remember.", Values: map[string]string{"from": text(from), "to": text(to)}}
}

func ThisPasswordIsTooEasyToGuess() Sentence {
	return Sentence{Code: "thisPasswordIsTooEasyToGuess", Message: "This password is too easy to guess. Choose another, such as a short sentence."}
}

func TheDemosAccountsStayAsTheyAre() Sentence {
	return Sentence{Code: "theDemosAccountsStayAsTheyAre", Message: "The demo’s accounts stay as they are, so that others can sign in too."}
}

func ThisPasswordIsNotCorrect() Sentence {
	return Sentence{Code: "thisPasswordIsNotCorrect", Message: "This password is not correct. Enter your own password."}
}

func SetUpTheAppAgain() Sentence {
	return Sentence{Code: "setUpTheAppAgain", Message: "The app could not be set up with this key. Start again."}
}

func ThisCodeIsNotCorrectWaitForTheNext() Sentence {
	return Sentence{Code: "thisCodeIsNotCorrectWaitForTheNext", Message: "This code is not correct. Wait for the next one and enter it."}
}

func EnterTheCodeOfYourApp() Sentence {
	return Sentence{Code: "enterTheCodeOfYourApp", Message: "Enter the code that your authenticator app shows, or a recovery code."}
}

func AddAnEMailAddressOrTelephoneFirst() Sentence {
	return Sentence{Code: "addAnEMailAddressOrTelephoneFirst", Message: "Add this client’s e-mail address or telephone number first. The link is sent there."}
}

func ThisLinkIsForTheClientSignOutFirst() Sentence {
	return Sentence{Code: "thisLinkIsForTheClientSignOutFirst", Message: "This link is for the client. Open it on the client’s device, or use Give tablet to client."}
}

func MessageConsultation(name, studio, link, until any) Sentence {
	return Sentence{Code: "messageConsultation", Message: "Dear " + text(name) + ",\n\nplease answer a few questions before your appointment at " + text(studio) + ":\n\n" + text(link) + "\n\nThe link is valid until " + text(until) + ". It is only for you.", Values: map[string]string{"name": text(name), "studio": text(studio), "link": text(link), "until": text(until)}}
}

func OnlyPractitionersWriteAboutTheSkin() Sentence {
	return Sentence{Code: "onlyPractitionersWriteAboutTheSkin", Message: "Skin and notes are written by practitioners. Leave this out."}
}

func YouSeeOnlyYourOwnClients() Sentence {
	return Sentence{Code: "youSeeOnlyYourOwnClients", Message: "You see only clients and appointments of your own. Ask a colleague."}
}

func ThisRuleHasNoWaitingPeriodChange() Sentence {
	return Sentence{Code: "thisRuleHasNoWaitingPeriodChange", Message: "This rule has no waiting period to change."}
}

func EnterDaysAsNumberFrom13650() Sentence {
	return Sentence{Code: "enterDaysAsNumberFrom13650", Message: "Enter the days as a number from 1 to 3650."}
}

func ThisLessStrictThanStandardRuleGive() Sentence {
	return Sentence{Code: "thisLessStrictThanStandardRuleGive", Message: "This is less strict than the standard rule. Give a reason; it is saved in the log."}
}

func ThisQuestionHasNoAnswerYet() Sentence {
	return Sentence{Code: "thisQuestionHasNoAnswerYet", Message: "This question has no answer yet."}
}

func ClientWasNotSureGoThroughTogether() Sentence {
	return Sentence{Code: "clientWasNotSureGoThroughTogether", Message: "The client was not sure. Go through it together, then choose yes or no."}
}

func ChooseGradeFrom0NotAtAll() Sentence {
	return Sentence{Code: "chooseGradeFrom0NotAtAll", Message: "Choose a grade from 0 (not at all) to 4 (very)."}
}

func ChooseOneOfTheOptions() Sentence {
	return Sentence{Code: "chooseOneOfTheOptions", Message: "Choose one of the options."}
}

func EnterDateOrLastDay() Sentence {
	return Sentence{Code: "enterDateOrLastDay", Message: "Enter the date, or the last day of it."}
}

func ThisDateInFutureEnterTodayOr() Sentence {
	return Sentence{Code: "thisDateInFutureEnterTodayOr", Message: "This date is in the future. Enter today or an earlier date."}
}

func EnterBabysDueDateAtMost40() Sentence {
	return Sentence{Code: "enterBabysDueDateAtMost40", Message: "Enter the baby’s due date, at most 40 weeks from now."}
}

func MarkWhere() Sentence {
	return Sentence{Code: "markWhere", Message: "Mark where."}
}

func ThereIsNoSuchKindOfOutcome() Sentence {
	return Sentence{Code: "thereIsNoSuchKindOfOutcome", Message: "There is no such kind of outcome."}
}

func ChooseWhatNotToUse() Sentence {
	return Sentence{Code: "chooseWhatNotToUse", Message: "Choose what not to use."}
}

func ChooseTheZonesToAvoid() Sentence {
	return Sentence{Code: "chooseTheZonesToAvoid", Message: "Choose the zones to avoid."}
}

func AWaitingPeriodNeedsItsDays() Sentence {
	return Sentence{Code: "aWaitingPeriodNeedsItsDays", Message: "A waiting period needs its days."}
}

func DueDateInFutureSoNothingCan() Sentence {
	return Sentence{Code: "dueDateInFutureSoNothingCan", Message: "A due date is in the future, so nothing can be waited for after it."}
}

func IdStudioRuleBeginsWithOwnPrefix(ownPrefix any) Sentence {
	return Sentence{Code: "idStudioRuleBeginsWithOwnPrefix", Message: "The id of a studio rule begins with " + text(ownPrefix) + ".", Values: map[string]string{"ownPrefix": text(ownPrefix)}}
}

func EveryRuleNeedsItsOwnId() Sentence {
	return Sentence{Code: "everyRuleNeedsItsOwnId", Message: "Every rule needs its own id."}
}

func RuleNeedsItsTitleQuestionReasonBasis() Sentence {
	return Sentence{Code: "ruleNeedsItsTitleQuestionReasonBasis", Message: "A rule needs its title, question, reason and basis."}
}

func SayWhetherRuleAsksForYesNo() Sentence {
	return Sentence{Code: "sayWhetherRuleAsksForYesNo", Message: "Say whether the rule asks for yes-no, date, zones, date-and-zones, due-date, grades, choice or nothing."}
}

func SayWhetherRuleAskedAtConsultationAt() Sentence {
	return Sentence{Code: "sayWhetherRuleAskedAtConsultationAt", Message: "Say whether the rule is asked at the consultation, at the pre-treatment check, or at both."}
}

func OnlyRuleWithDateCanOngoing() Sentence {
	return Sentence{Code: "onlyRuleWithDateCanOngoing", Message: "Only a rule with a date can be ongoing."}
}

func GradesNeedTheirSpotsChoiceItsOptions() Sentence {
	return Sentence{Code: "gradesNeedTheirSpotsChoiceItsOptions", Message: "Grades need their spots, a choice its options, and nothing else has them."}
}

func ARuleWithoutAnOutcomeDoesNothing() Sentence {
	return Sentence{Code: "aRuleWithoutAnOutcomeDoesNothing", Message: "A rule without an outcome does nothing."}
}

func PolicySaysWhatWhatFollows() Sentence {
	return Sentence{Code: "policySaysWhatWhatFollows", Message: "A policy says what it is, and what follows."}
}

func ThereIsNoIsK(is, k any) Sentence {
	return Sentence{Code: "thereIsNoIsK", Message: "There is no " + text(is) + " “" + text(k) + "”.", Values: map[string]string{"is": text(is), "k": text(k)}}
}

func PressureGoesFrom0To5() Sentence {
	return Sentence{Code: "pressureGoesFrom0To5", Message: "Pressure goes from 0 to 5."}
}

func RuleThatAsksNothingNeedsAgeFor() Sentence {
	return Sentence{Code: "ruleThatAsksNothingNeedsAgeFor", Message: "A rule that asks nothing needs an age for each outcome."}
}

func WeeksPregnancyNeedRuleThatAsksFor() Sentence {
	return Sentence{Code: "weeksPregnancyNeedRuleThatAsksFor", Message: "Weeks of pregnancy need a rule that asks for the due date."}
}

func OutcomeForGradeOrOptionThatRule() Sentence {
	return Sentence{Code: "outcomeForGradeOrOptionThatRule", Message: "The outcome is for a grade or an option that the rule does not ask for."}
}

func TheRuleDoesNotAskWhere() Sentence {
	return Sentence{Code: "theRuleDoesNotAskWhere", Message: "The rule does not ask where."}
}

func HandsOnTimeHandsOnMinLongerThan(handsOn, treatment any) Sentence {
	return Sentence{Code: "handsOnTimeHandsOnMinLongerThan", Message: "Hands-on time (" + text(handsOn) + " min) is longer than the treatment time (" + text(treatment) + " min).", Values: map[string]string{"handsOn": text(handsOn), "treatment": text(treatment)}}
}

func ProtocolsDefaultRepetitionsHaveNothingInheritFrom() Sentence {
	return Sentence{Code: "protocolsDefaultRepetitionsHaveNothingInheritFrom", Message: "The protocol’s default repetitions have nothing to inherit from."}
}

func RecurringCueComesEvery15SecondsAt() Sentence {
	return Sentence{Code: "recurringCueComesEvery15SecondsAt", Message: "A recurring cue comes every 15 seconds at most."}
}

func TheRoundIdAppearsTwice(id any) Sentence {
	return Sentence{Code: "theRoundIdAppearsTwice", Message: "The round “" + text(id) + "” appears twice.", Values: map[string]string{"id": text(id)}}
}

func RoundWorked120Times() Sentence {
	return Sentence{Code: "roundWorked120Times", Message: "A round is worked 1 to 20 times."}
}

func LeastMostRoundsMustIncludePlannedTimes(times any) Sentence {
	return Sentence{Code: "leastMostRoundsMustIncludePlannedTimes", Message: "The least and most rounds must include the planned " + text(times) + ".", Values: map[string]string{"times": text(times)}}
}

func EverySectionNeedsItsOwnId() Sentence {
	return Sentence{Code: "everySectionNeedsItsOwnId", Message: "Every section needs its own id."}
}

func SectionsDefaultRepetitionsHaveNothingInheritFrom() Sentence {
	return Sentence{Code: "sectionsDefaultRepetitionsHaveNothingInheritFrom", Message: "A section’s default repetitions have nothing to inherit from."}
}

func EveryStepNeedsItsOwnIdId(id any) Sentence {
	return Sentence{Code: "everyStepNeedsItsOwnIdId", Message: "Every step needs its own id; “" + text(id) + "” cannot be used.", Values: map[string]string{"id": text(id)}}
}

func TheLibraryHasNoStrokeStroke(stroke any) Sentence {
	return Sentence{Code: "theLibraryHasNoStrokeStroke", Message: "The library has no stroke “" + text(stroke) + "”.", Values: map[string]string{"stroke": text(stroke)}}
}

func ThereIsNoPhasePhase(phase any) Sentence {
	return Sentence{Code: "thereIsNoPhasePhase", Message: "There is no phase “" + text(phase) + "”.", Values: map[string]string{"phase": text(phase)}}
}

func ThereIsNoRoundRound(round any) Sentence {
	return Sentence{Code: "thereIsNoRoundRound", Message: "There is no round “" + text(round) + "”.", Values: map[string]string{"round": text(round)}}
}

func StepsRoundMustFollowEachOther() Sentence {
	return Sentence{Code: "stepsRoundMustFollowEachOther", Message: "The steps of a round must follow each other."}
}

func ThereIsNoHandPartHand(hand any) Sentence {
	return Sentence{Code: "thereIsNoHandPartHand", Message: "There is no hand part “" + text(hand) + "”.", Values: map[string]string{"hand": text(hand)}}
}

func ThereIsNoSectionSection(section any) Sentence {
	return Sentence{Code: "thereIsNoSectionSection", Message: "There is no section “" + text(section) + "”.", Values: map[string]string{"section": text(section)}}
}

func CountedRepetitionsNeedSecondsOneRepetition() Sentence {
	return Sentence{Code: "countedRepetitionsNeedSecondsOneRepetition", Message: "Counted repetitions need the seconds of one repetition."}
}

func TheStudioHasNoToolTool(tool any) Sentence {
	return Sentence{Code: "theStudioHasNoToolTool", Message: "The studio has no tool “" + text(tool) + "”.", Values: map[string]string{"tool": text(tool)}}
}

func TheShelfHasNoProductProduct(product any) Sentence {
	return Sentence{Code: "theShelfHasNoProductProduct", Message: "The shelf has no product “" + text(product) + "”.", Values: map[string]string{"product": text(product)}}
}

func ProdHasNotBeenMeasuredInMeasure(prod, measure any) Sentence {
	return Sentence{Code: "prodHasNotBeenMeasuredInMeasure", Message: text(prod) + " has not been measured in " + text(measure) + ". Weigh it first, or enter mL.", Values: map[string]string{"prod": text(prod), "measure": text(measure)}}
}

func TheLibraryHasNoStrokeWith(with any) Sentence {
	return Sentence{Code: "theLibraryHasNoStrokeWith", Message: "The library has no stroke “" + text(with) + "”.", Values: map[string]string{"with": text(with)}}
}

func EnterByHowMuch() Sentence {
	return Sentence{Code: "enterByHowMuch", Message: "Enter by how much."}
}

func BreathsNeedTheSecondsInAndOut() Sentence {
	return Sentence{Code: "breathsNeedTheSecondsInAndOut", Message: "Breaths need the seconds in and out."}
}

func PointsNeedTheirNumberSecondsAtEach() Sentence {
	return Sentence{Code: "pointsNeedTheirNumberSecondsAtEach", Message: "Points need their number and the seconds at each."}
}

func ThereIsNoKindOfRepetitionsKind(kind any) Sentence {
	return Sentence{Code: "thereIsNoKindOfRepetitionsKind", Message: "There is no kind of repetitions “" + text(kind) + "”.", Values: map[string]string{"kind": text(kind)}}
}

func PlanAtLeast1Repetition() Sentence {
	return Sentence{Code: "planAtLeast1Repetition", Message: "Plan at least 1 repetition."}
}

func LeastMinAboveWhatPlannedPlanned(min, planned any) Sentence {
	return Sentence{Code: "leastMinAboveWhatPlannedPlanned", Message: "The least (" + text(min) + ") is above what is planned (" + text(planned) + ").", Values: map[string]string{"min": text(min), "planned": text(planned)}}
}

func MostMaxBelowWhatPlannedPlanned(max, planned any) Sentence {
	return Sentence{Code: "mostMaxBelowWhatPlannedPlanned", Message: "The most (" + text(max) + ") is below what is planned (" + text(planned) + ").", Values: map[string]string{"max": text(max), "planned": text(planned)}}
}

func PlanAtMost3600() Sentence {
	return Sentence{Code: "planAtMost3600", Message: "Plan at most 3600."}
}

func WhatPlannedPlannedAboveMaximumCeiling(planned, ceiling any) Sentence {
	return Sentence{Code: "whatPlannedPlannedAboveMaximumCeiling", Message: "What is planned (" + text(planned) + ") is above the maximum (" + text(ceiling) + ").", Values: map[string]string{"planned": text(planned), "ceiling": text(ceiling)}}
}

func OnlyCountedRepetitionsCanBeReversed() Sentence {
	return Sentence{Code: "onlyCountedRepetitionsCanBeReversed", Message: "Only counted repetitions can be reversed."}
}

func SecondsGoFrom0To3600() Sentence {
	return Sentence{Code: "secondsGoFrom0To3600", Message: "Seconds go from 0 to 3600."}
}

func NumberRepetitionsTooSmallOrTooLarge() Sentence {
	return Sentence{Code: "numberRepetitionsTooSmallOrTooLarge", Message: "The number of repetitions is too small or too large."}
}

func StrokeNeedsKeyName() Sentence {
	return Sentence{Code: "strokeNeedsKeyName", Message: "A stroke needs a key and a name."}
}

func StrokeHasNothingInheritFromGiveIts() Sentence {
	return Sentence{Code: "strokeHasNothingInheritFromGiveIts", Message: "A stroke has nothing to inherit from. Give it its own repetitions."}
}

func CountedRepetitionsNeedSecondsOneRepetitionAdd() Sentence {
	return Sentence{Code: "countedRepetitionsNeedSecondsOneRepetitionAdd", Message: "Counted repetitions need the seconds of one repetition. Add a part."}
}

func ThereIsNoIntentIntent(intent any) Sentence {
	return Sentence{Code: "thereIsNoIntentIntent", Message: "There is no intent “" + text(intent) + "”.", Values: map[string]string{"intent": text(intent)}}
}

func ThereIsNoStrokeFamilyFamily(family any) Sentence {
	return Sentence{Code: "thereIsNoStrokeFamilyFamily", Message: "There is no stroke family “" + text(family) + "”.", Values: map[string]string{"family": text(family)}}
}

func ChooseAlternativeStrokeHandPartToolOr() Sentence {
	return Sentence{Code: "chooseAlternativeStrokeHandPartToolOr", Message: "Choose the alternative: a stroke, a hand part, a tool, or leave it out."}
}

func AStrokeCannotBeItsOwnAlternative() Sentence {
	return Sentence{Code: "aStrokeCannotBeItsOwnAlternative", Message: "A stroke cannot be its own alternative."}
}

func StepHasNoPropertyKThatCould(k, all any) Sentence {
	return Sentence{Code: "stepHasNoPropertyKThatCould", Message: "A step has no property “" + text(k) + "” that could be unknown. It has: " + text(all) + ".", Values: map[string]string{"k": text(k), "all": text(all)}}
}

func PartLastsMoreThan0AtMost() Sentence {
	return Sentence{Code: "partLastsMoreThan0AtMost", Message: "A part lasts more than 0 and at most 600 seconds, at most 50 times."}
}

func ThereIsNoZoneZone(zone any) Sentence {
	return Sentence{Code: "thereIsNoZoneZone", Message: "There is no zone “" + text(zone) + "”.", Values: map[string]string{"zone": text(zone)}}
}

func TheFileIsLargerThanMaxBytesMB(maxBytes any) Sentence {
	return Sentence{Code: "theFileIsLargerThanMaxBytesMB", Message: "The file is larger than " + text(maxBytes) + " MB.", Values: map[string]string{"maxBytes": text(maxBytes)}}
}

func TheFileIsEmpty() Sentence {
	return Sentence{Code: "theFileIsEmpty", Message: "The file is empty."}
}

func TheFileIsNotJSONErr(err any) Sentence {
	return Sentence{Code: "theFileIsNotJSONErr", Message: "The file is not JSON: " + text(err) + ".", Values: map[string]string{"err": text(err)}}
}

func FileNotJSONFromLineLineOn(line, err any) Sentence {
	return Sentence{Code: "fileNotJSONFromLineLineOn", Message: "The file is not JSON from line " + text(line) + " on: " + text(err) + ".", Values: map[string]string{"line": text(line), "err": text(err)}}
}

func FileNestedMoreThanMaxDepthLevelsDeep(maxDepth any) Sentence {
	return Sentence{Code: "fileNestedMoreThanMaxDepthLevelsDeep", Message: "The file is nested more than " + text(maxDepth) + " levels deep.", Values: map[string]string{"maxDepth": text(maxDepth)}}
}

func SignInToContinue() Sentence {
	return Sentence{Code: "signInToContinue", Message: "Sign in to continue."}
}

func ThisPageOutDateReloadThenTry() Sentence {
	return Sentence{Code: "thisPageOutDateReloadThenTry", Message: "This page is out of date. Reload it, then try again."}
}

func SomeDetailsCouldNotBeSavedMsg(msg any) Sentence {
	return Sentence{Code: "someDetailsCouldNotBeSavedMsg", Message: "Some details could not be saved: " + text(msg) + ".", Values: map[string]string{"msg": text(msg)}}
}

func ThatTimeHasJustBeenTakenWhat(what any) Sentence {
	return Sentence{Code: "thatTimeHasJustBeenTakenWhat", Message: "That time has just been taken: the " + text(what) + " is not free. Choose one of the nearest free times.", Values: map[string]string{"what": text(what)}}
}

func ThisDraftWasChangedInAnotherWindow() Sentence {
	return Sentence{Code: "thisDraftWasChangedInAnotherWindow", Message: "This draft was changed in another window. Choose which of the two to keep."}
}

func WeCouldNotFindThisMayHave() Sentence {
	return Sentence{Code: "weCouldNotFindThisMayHave", Message: "We could not find this. It may have been deleted."}
}

func YourRoleDoesNotAllowThisAsk() Sentence {
	return Sentence{Code: "yourRoleDoesNotAllowThisAsk", Message: "Your role does not allow this. Ask the owner of the studio."}
}

func ThisRecordLockedCanNoLongerEdited() Sentence {
	return Sentence{Code: "thisRecordLockedCanNoLongerEdited", Message: "This record is locked and can no longer be edited."}
}

func ThisAlreadyExistsChooseAnotherName() Sentence {
	return Sentence{Code: "thisAlreadyExistsChooseAnotherName", Message: "This already exists. Choose another name."}
}

func SomeoneElseJustChangedThisTryAgain() Sentence {
	return Sentence{Code: "someoneElseJustChangedThisTryAgain", Message: "Someone else just changed this. Try again."}
}

func WeCouldNotConfirmThatThisWas() Sentence {
	return Sentence{Code: "weCouldNotConfirmThatThisWas", Message: "We could not confirm that this was saved. Check before you try again."}
}

func EMailAddressOrPasswordNotCorrect() Sentence {
	return Sentence{Code: "eMailAddressOrPasswordNotCorrect", Message: "The e-mail address or the password is not correct."}
}

func SomethingWentWrongOnOurSideNothing() Sentence {
	return Sentence{Code: "somethingWentWrongOnOurSideNothing", Message: "Something went wrong on our side; nothing was saved. Try again."}
}

func ProtocolThisAppointmentCanNoLongerChanged() Sentence {
	return Sentence{Code: "protocolThisAppointmentCanNoLongerChanged", Message: "The protocol of this appointment can no longer be changed."}
}

func ThisLinkNotValidOrHasExpired() Sentence {
	return Sentence{Code: "thisLinkNotValidOrHasExpired", Message: "This link is not valid or has expired. Ask the studio for a new one."}
}

func FileLargerThan5MBScanAgain() Sentence {
	return Sentence{Code: "fileLargerThan5MBScanAgain", Message: "The file is larger than 5 MB. Scan it again at a lower resolution."}
}

func ScanPDFJPEGOrPNGFile() Sentence {
	return Sentence{Code: "scanPDFJPEGOrPNGFile", Message: "A scan is a PDF, a JPEG or a PNG file."}
}

func EnterQuestionDoctorAtMost2000Characters() Sentence {
	return Sentence{Code: "enterQuestionDoctorAtMost2000Characters", Message: "Enter the question to the doctor, at most 2000 characters."}
}

func LastCheckDoesNotAskForLetter() Sentence {
	return Sentence{Code: "lastCheckDoesNotAskForLetter", Message: "The last check does not ask for a letter. Do the pre-treatment check first."}
}

func EnterLastDayDoctorsAnswerValidToday() Sentence {
	return Sentence{Code: "enterLastDayDoctorsAnswerValidToday", Message: "Enter the last day the doctor’s answer is valid: today or later."}
}

func SayWhereWasPutSuchAsInner() Sentence {
	return Sentence{Code: "sayWhereWasPutSuchAsInner", Message: "Say where it was put, such as the inner forearm, left."}
}

func SayForHowManyMonthsNegativeTest() Sentence {
	return Sentence{Code: "sayForHowManyMonthsNegativeTest", Message: "Say for how many months a negative test holds: 1 to 36."}
}

func ThatVisitBelongsToAnotherClient() Sentence {
	return Sentence{Code: "thatVisitBelongsToAnotherClient", Message: "That visit belongs to another client."}
}

func ChooseTheProductThatIsTested() Sentence {
	return Sentence{Code: "chooseTheProductThatIsTested", Message: "Choose the product that is tested."}
}

func ChooseLotThisProductThatOnShelf() Sentence {
	return Sentence{Code: "chooseLotThisProductThatOnShelf", Message: "Choose a lot of this product that is on the shelf and still good."}
}

func ChooseHowTheSkinReacted() Sentence {
	return Sentence{Code: "chooseHowTheSkinReacted", Message: "Choose how the skin reacted."}
}

func TooEarlyForThisReadingOrWas() Sentence {
	return Sentence{Code: "tooEarlyForThisReadingOrWas", Message: "It is too early for this reading, or it was made already."}
}

func PatchTestAppliedAtLeast24Hours() Sentence {
	return Sentence{Code: "patchTestAppliedAtLeast24Hours", Message: "A patch test is applied at least 24 hours before the treatment, and not in the past."}
}

func ThisVisitNeedsNoPatchTestAny() Sentence {
	return Sentence{Code: "thisVisitNeedsNoPatchTestAny", Message: "This visit needs no patch test (any more)."}
}

func ThisVersionUsesStrokeToolOrProduct() Sentence {
	return Sentence{Code: "thisVersionUsesStrokeToolOrProduct", Message: "This version uses a stroke, tool or product that is no longer there. Open the protocol and publish a new version."}
}

func ThisAppointmentForPatchTestSoThere() Sentence {
	return Sentence{Code: "thisAppointmentForPatchTestSoThere", Message: "This appointment is for a patch test, so there is no treatment to plan."}
}

func ThisAppointmentBelongsToAnotherClient() Sentence {
	return Sentence{Code: "thisAppointmentBelongsToAnotherClient", Message: "This appointment belongs to another client."}
}

func ThereNoCheckForTodayYetDo() Sentence {
	return Sentence{Code: "thereNoCheckForTodayYetDo", Message: "There is no check for today yet. Do the pre-treatment check first."}
}

func EnterTheNameOfTheClient() Sentence {
	return Sentence{Code: "enterTheNameOfTheClient", Message: "Enter the name of the client."}
}

func EnterDateBirthAsYearMonthDay() Sentence {
	return Sentence{Code: "enterDateBirthAsYearMonthDay", Message: "Enter the date of birth as year-month-day, today or earlier."}
}

func EnterEMailAddressWithOrLeave() Sentence {
	return Sentence{Code: "enterEMailAddressWithOrLeave", Message: "Enter an e-mail address with an @, or leave the field empty."}
}

func ThereIsNoSkinConditionSt(st any) Sentence {
	return Sentence{Code: "thereIsNoSkinConditionSt", Message: "There is no skin condition “" + text(st) + "”.", Values: map[string]string{"st": text(st)}}
}

func ThereIsNoConsentOfThatKind() Sentence {
	return Sentence{Code: "thereIsNoConsentOfThatKind", Message: "There is no consent of that kind."}
}

func EnterTheNameOfThePersonSigning() Sentence {
	return Sentence{Code: "enterTheNameOfThePersonSigning", Message: "Enter the name of the person signing."}
}

func ClientUnder18SoParentOrGuardian() Sentence {
	return Sentence{Code: "clientUnder18SoParentOrGuardian", Message: "The client is under 18, so a parent or guardian must sign."}
}

func ClientUnder18SoNoWorkInside() Sentence {
	return Sentence{Code: "clientUnder18SoNoWorkInside", Message: "The client is under 18, so no work inside the mouth."}
}

func TypeClientsNameExactlyAsInFile() Sentence {
	return Sentence{Code: "typeClientsNameExactlyAsInFile", Message: "Type the client’s name exactly as it is in the file."}
}

func ThisClientInTreatmentSignLockRecord() Sentence {
	return Sentence{Code: "thisClientInTreatmentSignLockRecord", Message: "This client is in treatment. Sign and lock the record first."}
}

func SignatureCouldNotReadDrawAgain() Sentence {
	return Sentence{Code: "signatureCouldNotReadDrawAgain", Message: "The signature could not be read. Draw it again."}
}

func SignInFieldWithFingerPenOr() Sentence {
	return Sentence{Code: "signInFieldWithFingerPenOr", Message: "Sign in the field, with a finger, a pen or the mouse."}
}

func YouCannotOverrideRule(rule any) Sentence {
	return Sentence{Code: "youCannotOverrideRule", Message: "You cannot override “" + text(rule) + "”.", Values: map[string]string{"rule": text(rule)}}
}

func GiveReasonForOverrideSavedInRecord() Sentence {
	return Sentence{Code: "giveReasonForOverrideSavedInRecord", Message: "Give a reason for the override. It is saved in the record."}
}

func EnterUsualBedtimeAsHoursMinutesFor() Sentence {
	return Sentence{Code: "enterUsualBedtimeAsHoursMinutesFor", Message: "Enter the usual bedtime as hours and minutes, for example 22:30."}
}

func ThereIsNoSkinConditionS(s any) Sentence {
	return Sentence{Code: "thereIsNoSkinConditionS", Message: "There is no skin condition “" + text(s) + "”.", Values: map[string]string{"s": text(s)}}
}

func ThereIsNoConcernC(c any) Sentence {
	return Sentence{Code: "thereIsNoConcernC", Message: "There is no concern “" + text(c) + "”.", Values: map[string]string{"c": text(c)}}
}

func MedicineHasNameAtMost120Characters() Sentence {
	return Sentence{Code: "medicineHasNameAtMost120Characters", Message: "A medicine has a name of at most 120 characters."}
}

func EnterDateAsYearMonthDayFor() Sentence {
	return Sentence{Code: "enterDateAsYearMonthDayFor", Message: "Enter the date as year-month-day, for example 2026-11-24."}
}

func ThisTimeHasPassedChooseLaterOne() Sentence {
	return Sentence{Code: "thisTimeHasPassedChooseLaterOne", Message: "This time has passed. Choose a later one."}
}

func StudioClosedAtThisTimeChooseTime() Sentence {
	return Sentence{Code: "studioClosedAtThisTimeChooseTime", Message: "The studio is closed at this time. Choose a time during opening hours."}
}

func ThisClientHasWaitingPeriodFirstDay(until any) Sentence {
	return Sentence{Code: "thisClientHasWaitingPeriodFirstDay", Message: "This client has a waiting period. The first day you can book is " + text(until) + ".", Values: map[string]string{"until": text(until)}}
}

func ThisAppointmentStateCantMoved(state any) Sentence {
	return Sentence{Code: "thisAppointmentStateCantMoved", Message: "This appointment is " + text(state) + " and can’t be moved.", Values: map[string]string{"state": text(state)}}
}

func ThisAppointmentStateSoCantBecome(state, to any) Sentence {
	return Sentence{Code: "thisAppointmentStateSoCantBecome", Message: "This appointment is " + text(state) + ", so it can’t become " + text(to) + ".", Values: map[string]string{"state": text(state), "to": text(to)}}
}

func NewStudioNeedsItsNameTimeZone() Sentence {
	return Sentence{Code: "newStudioNeedsItsNameTimeZone", Message: "A new studio needs its name, time zone, currency, opening hours and at least one account."}
}

func ThereIsNoTimeZoneTimeZone(timeZone any) Sentence {
	return Sentence{Code: "thereIsNoTimeZoneTimeZone", Message: "There is no time zone “" + text(timeZone) + "”.", Values: map[string]string{"timeZone": text(timeZone)}}
}

func AnotherAccountUsesEmailAlready(email any) Sentence {
	return Sentence{Code: "anotherAccountUsesEmailAlready", Message: "Another account uses " + text(email) + " already.", Values: map[string]string{"email": text(email)}}
}

func TherePractitionerWithKeyKeyAlready(key any) Sentence {
	return Sentence{Code: "therePractitionerWithKeyKeyAlready", Message: "There is a practitioner with the key “" + text(key) + "” already.", Values: map[string]string{"key": text(key)}}
}

func ThereRoomWithKeyKeyAlready(key any) Sentence {
	return Sentence{Code: "thereRoomWithKeyKeyAlready", Message: "There is a room with the key “" + text(key) + "” already.", Values: map[string]string{"key": text(key)}}
}

func ThereToolWithKeyKeyAlready(key any) Sentence {
	return Sentence{Code: "thereToolWithKeyKeyAlready", Message: "There is a tool with the key “" + text(key) + "” already.", Values: map[string]string{"key": text(key)}}
}

func ThereProductWithKeyKeyAlready(key any) Sentence {
	return Sentence{Code: "thereProductWithKeyKeyAlready", Message: "There is a product with the key “" + text(key) + "” already.", Values: map[string]string{"key": text(key)}}
}

func TextNotDayWrite20261124(text_ any) Sentence {
	return Sentence{Code: "textNotDayWrite20261124", Message: "“" + text(text_) + "” is not a day. Write 2026-11-24, or today-30.", Values: map[string]string{"text": text(text_)}}
}

func LotNumberStandsHereTwice(number any) Sentence {
	return Sentence{Code: "lotNumberStandsHereTwice", Message: "Lot " + text(number) + " stands here twice.", Values: map[string]string{"number": text(number)}}
}

func ThereStrokeWithKeyKeyAlready(key any) Sentence {
	return Sentence{Code: "thereStrokeWithKeyKeyAlready", Message: "There is a stroke with the key “" + text(key) + "” already.", Values: map[string]string{"key": text(key)}}
}

func ThereIsNoToolTool(tool any) Sentence {
	return Sentence{Code: "thereIsNoToolTool", Message: "There is no tool “" + text(tool) + "”.", Values: map[string]string{"tool": text(tool)}}
}

func ThereProtocolWithKeyKeyAlready(key any) Sentence {
	return Sentence{Code: "thereProtocolWithKeyKeyAlready", Message: "There is a protocol with the key “" + text(key) + "” already.", Values: map[string]string{"key": text(key)}}
}

func NameBreaksAbsoluteLimitCodeStepSteps(name, code, steps any) Sentence {
	return Sentence{Code: "nameBreaksAbsoluteLimitCodeStepSteps", Message: text(name) + " breaks an absolute limit (" + text(code) + ", step " + text(steps) + ") and cannot be brought in.", Values: map[string]string{"name": text(name), "code": text(code), "steps": text(steps)}}
}

func TheKeyKeyStandsHereTwice(key any) Sentence {
	return Sentence{Code: "theKeyKeyStandsHereTwice", Message: "The key “" + text(key) + "” stands here twice.", Values: map[string]string{"key": text(key)}}
}

func ThereIsNoFieldVal(field, val any) Sentence {
	return Sentence{Code: "thereIsNoFieldVal", Message: "There is no " + text(field) + " “" + text(val) + "”.", Values: map[string]string{"field": text(field), "val": text(val)}}
}

func TimeIsNotATimeOfDay(time any) Sentence {
	return Sentence{Code: "timeIsNotATimeOfDay", Message: "“" + text(time) + "” is not a time of day.", Values: map[string]string{"time": text(time)}}
}

func WhatTakenAtThatTimeByAnother(what any) Sentence {
	return Sentence{Code: "whatTakenAtThatTimeByAnother", Message: "The " + text(what) + " is taken at that time by another appointment.", Values: map[string]string{"what": text(what)}}
}

func ThereIsNoRuleId(id any) Sentence {
	return Sentence{Code: "thereIsNoRuleId", Message: "There is no rule “" + text(id) + "”.", Values: map[string]string{"id": text(id)}}
}

func DayIsNotADay(day any) Sentence {
	return Sentence{Code: "dayIsNotADay", Message: "“" + text(day) + "” is not a day.", Values: map[string]string{"day": text(day)}}
}

func LetterNeedsItsDayYesLastDay() Sentence {
	return Sentence{Code: "letterNeedsItsDayYesLastDay", Message: "A letter needs its day, a yes the last day it holds."}
}

func PatchTestNeedsItsDayProductShelf() Sentence {
	return Sentence{Code: "patchTestNeedsItsDayProductShelf", Message: "A patch test needs its day and a product of the shelf."}
}

func ThereIsNoGradeGrade(grade any) Sentence {
	return Sentence{Code: "thereIsNoGradeGrade", Message: "There is no grade “" + text(grade) + "”.", Values: map[string]string{"grade": text(grade)}}
}

func ThisTabletWithClientEnterYourPIN() Sentence {
	return Sentence{Code: "thisTabletWithClientEnterYourPIN", Message: "This tablet is with a client. Enter your PIN to unlock it."}
}

func APINIs4To8Digits() Sentence {
	return Sentence{Code: "aPINIs4To8Digits", Message: "A PIN is 4 to 8 digits."}
}

func ChoosePINFirstYouNeedUnlockTablet() Sentence {
	return Sentence{Code: "choosePINFirstYouNeedUnlockTablet", Message: "Choose a PIN first. You need it to unlock the tablet."}
}

func PinWasWrongFiveTimesSignIn() Sentence {
	return Sentence{Code: "pinWasWrongFiveTimesSignIn", Message: "The PIN was wrong five times. Sign in again with your password."}
}

func ThisPINNotCorrectYouHavePinTries(pinTries any) Sentence {
	return Sentence{Code: "thisPINNotCorrectYouHavePinTries", Message: "This PIN is not correct. You have " + text(pinTries) + " tries left.", Values: map[string]string{"pinTries": text(pinTries)}}
}

func ThisListHasMoreThan200Ingredients() Sentence {
	return Sentence{Code: "thisListHasMoreThan200Ingredients", Message: "This list has more than 200 ingredients. Check the commas between them."}
}

func ThereProtocolWithKeyBodyAlreadyChoose(body any) Sentence {
	return Sentence{Code: "thereProtocolWithKeyBodyAlreadyChoose", Message: "There is a protocol with the key “" + text(body) + "” already. Choose another name.", Values: map[string]string{"body": text(body)}}
}

func ThisProtocolWasNeverPublishedSoThere() Sentence {
	return Sentence{Code: "thisProtocolWasNeverPublishedSoThere", Message: "This protocol was never published, so there is no version to go back to."}
}

func YouHaveNoDraftToPublish() Sentence {
	return Sentence{Code: "youHaveNoDraftToPublish", Message: "You have no draft to publish."}
}

func VersionNewestWasPublishedAfterYouStarted(newest, basedOn any) Sentence {
	return Sentence{Code: "versionNewestWasPublishedAfterYouStarted", Message: "Version " + text(newest) + " was published after you started from version " + text(basedOn) + ". Discard your draft to see it, then make your change again.", Values: map[string]string{"newest": text(newest), "basedOn": text(basedOn)}}
}

func ProtocolWithoutStepsCannotPublishedAddStroke() Sentence {
	return Sentence{Code: "protocolWithoutStepsCannotPublishedAddStroke", Message: "A protocol without steps cannot be published. Add a stroke first."}
}

func FindingMarkedMustFixHasFixedBefore() Sentence {
	return Sentence{Code: "findingMarkedMustFixHasFixedBefore", Message: "A finding marked “Must fix” has to be fixed before the protocol can be published."}
}

func ProtocolUsersUsesThisStrokeInDraft(users any) Sentence {
	return Sentence{Code: "protocolUsersUsesThisStrokeInDraft", Message: "The protocol " + text(users) + " uses this stroke, in a draft, as published, or in a version with booked appointments. Remove it there first.", Values: map[string]string{"users": text(users)}}
}

func ThisLessStrictThanBeforeGiveReason() Sentence {
	return Sentence{Code: "thisLessStrictThanBeforeGiveReason", Message: "This is less strict than before. Give a reason; it is saved in the log."}
}

func APackHoldsMoreThanNothing() Sentence {
	return Sentence{Code: "aPackHoldsMoreThanNothing", Message: "A pack holds more than nothing."}
}

func PriceReOrderPointCannotBelow0() Sentence {
	return Sentence{Code: "priceReOrderPointCannotBelow0", Message: "Price and re-order point cannot be below 0."}
}

func UsualAmountEndsRangeMaxMLBeforeBegins(rangeMax, rangeMin any) Sentence {
	return Sentence{Code: "usualAmountEndsRangeMaxMLBeforeBegins", Message: "The usual amount ends (" + text(rangeMax) + " mL) before it begins (" + text(rangeMin) + " mL).", Values: map[string]string{"rangeMax": text(rangeMax), "rangeMin": text(rangeMin)}}
}

func EnterAmountForFaceNeckDCollet() Sentence {
	return Sentence{Code: "enterAmountForFaceNeckDCollet", Message: "Enter the amount for face, neck and décolleté, in mL."}
}

func CopyTheLotNumberFromThePack() Sentence {
	return Sentence{Code: "copyTheLotNumberFromThePack", Message: "Copy the lot number from the pack."}
}

func EnterUseByDateAsYearMonth() Sentence {
	return Sentence{Code: "enterUseByDateAsYearMonth", Message: "Enter the use-by date as year-month-day."}
}

func EnterTheAmountReceivedAbove0() Sentence {
	return Sentence{Code: "enterTheAmountReceivedAbove0", Message: "Enter the amount received, above 0."}
}

func TheCostCannotBeBelow0() Sentence {
	return Sentence{Code: "theCostCannotBeBelow0", Message: "The cost cannot be below 0."}
}

func TreatmentsDeliveriesRecordedAutomaticallyChooseAnotherReason() Sentence {
	return Sentence{Code: "treatmentsDeliveriesRecordedAutomaticallyChooseAnotherReason", Message: "Treatments and deliveries are recorded automatically. Choose another reason."}
}

func SayHowMuch() Sentence {
	return Sentence{Code: "sayHowMuch", Message: "Say how much."}
}

func UseMinusForStockGoingOutPlus() Sentence {
	return Sentence{Code: "useMinusForStockGoingOutPlus", Message: "Use a minus for stock going out, a plus for stock coming back."}
}

func OnlyRemainingIsLeftInLotNumber(remaining, number any) Sentence {
	return Sentence{Code: "onlyRemainingIsLeftInLotNumber", Message: "Only " + text(remaining) + " is left in lot " + text(number) + ".", Values: map[string]string{"remaining": text(remaining), "number": text(number)}}
}

func ThisAppointmentStateSoCantTreated(state any) Sentence {
	return Sentence{Code: "thisAppointmentStateSoCantTreated", Message: "This appointment is " + text(state) + ", so it can’t be treated.", Values: map[string]string{"state": text(state)}}
}

func DoNotTreatWhileYouHaveThis() Sentence {
	return Sentence{Code: "doNotTreatWhileYouHaveThis", Message: "Do not treat while you have this. Ask a colleague to take over, or move the appointment."}
}

func TodaysCheckSaysDoNotTreatThis() Sentence {
	return Sentence{Code: "todaysCheckSaysDoNotTreatThis", Message: "Today’s check says do not treat this client."}
}

func TooMuchThisProtocolHasLeftOut() Sentence {
	return Sentence{Code: "tooMuchThisProtocolHasLeftOut", Message: "Too much of this protocol has to be left out today. Choose another protocol or another day."}
}

func SomeAdjustmentsNotAcceptedYetTheyMay() Sentence {
	return Sentence{Code: "someAdjustmentsNotAcceptedYetTheyMay", Message: "Some adjustments are not accepted yet. They may have changed, so please review them again."}
}

func ConsentMissingAskClientReadSignFirst() Sentence {
	return Sentence{Code: "consentMissingAskClientReadSignFirst", Message: "A consent is missing. Ask the client to read and sign it first."}
}

func ThisTreatmentHasNotBeenStartedYet() Sentence {
	return Sentence{Code: "thisTreatmentHasNotBeenStartedYet", Message: "This treatment has not been started yet."}
}

func PlanThisAppointmentUsesStrokeToolOr() Sentence {
	return Sentence{Code: "planThisAppointmentUsesStrokeToolOr", Message: "The plan of this appointment uses a stroke, tool or product that is no longer there."}
}

func TreatmentNotesLongerThan8000CharactersShorten() Sentence {
	return Sentence{Code: "treatmentNotesLongerThan8000CharactersShorten", Message: "The treatment notes are longer than 8000 characters. Shorten them."}
}

func EnterAnAmountBetween0And1000() Sentence {
	return Sentence{Code: "enterAnAmountBetween0And1000", Message: "Enter an amount between 0 and 1000."}
}

func ThereNoProductProductOnShelf(product any) Sentence {
	return Sentence{Code: "thereNoProductProductOnShelf", Message: "There is no product “" + text(product) + "” on the shelf.", Values: map[string]string{"product": text(product)}}
}

func OnlyHaveUnitNameUsableYouEntered(have, unit, name, asked any) Sentence {
	return Sentence{Code: "onlyHaveUnitNameUsableYouEntered", Message: "Only " + text(have) + " " + text(unit) + " of " + text(name) + " is usable and you entered " + text(asked) + ". Receive a delivery first, or correct the amount.", Values: map[string]string{"have": text(have), "unit": text(unit), "name": text(name), "asked": text(asked)}}
}

func FingerPartStrokeOrOtherHandHas() Sentence {
	return Sentence{Code: "fingerPartStrokeOrOtherHandHas", Message: "A finger, a part of the stroke or the other hand has its place there: choose another, or take the step out."}
}

func ColdStepsCannotMadeShortEnoughTake() Sentence {
	return Sentence{Code: "coldStepsCannotMadeShortEnoughTake", Message: "The cold steps cannot be made short enough: take one out."}
}

func StrokesThereAlreadyAsShortAsThey() Sentence {
	return Sentence{Code: "strokesThereAlreadyAsShortAsThey", Message: "The strokes there are already as short as they may be: take one out."}
}

func StrokesThereCannotMadeShortEnoughTake() Sentence {
	return Sentence{Code: "strokesThereCannotMadeShortEnoughTake", Message: "The strokes there cannot be made short enough: take one out."}
}

func ThisFixWouldCauseSameProblemElsewhere() Sentence {
	return Sentence{Code: "thisFixWouldCauseSameProblemElsewhere", Message: "This fix would cause the same problem elsewhere. Choose another, or change the step by hand."}
}

func ThisFixNotEnoughHereChooseAnother() Sentence {
	return Sentence{Code: "thisFixNotEnoughHereChooseAnother", Message: "This fix is not enough here. Choose another, or change the step by hand."}
}

func ProtocolHasChangedFindingIDNoLongerHas(findingID any) Sentence {
	return Sentence{Code: "protocolHasChangedFindingIDNoLongerHas", Message: "The protocol has changed: “" + text(findingID) + "” no longer has this fix.", Values: map[string]string{"findingID": text(findingID)}}
}

func NoChoiceDosesFitsSlotNearestPlan(missBy any) Sentence {
	return Sentence{Code: "noChoiceDosesFitsSlotNearestPlan", Message: "No choice of doses fits the slot: the nearest plan misses it by " + text(missBy) + " s. Change the slot, or add or take out a step.", Values: map[string]string{"missBy": text(missBy)}}
}

func NoOrderThatKeepsOtherRulesFlows() Sentence {
	return Sentence{Code: "noOrderThatKeepsOtherRulesFlows", Message: "No order that keeps the other rules flows better."}
}

func SmoothestOrderThatKeepsOtherRulesStill() Sentence {
	return Sentence{Code: "smoothestOrderThatKeepsOtherRulesStill", Message: "The smoothest order that keeps the other rules still breaks as often: leave out a tool or a step."}
}

func LibraryHasNoStrokeForPhaseName(name any) Sentence {
	return Sentence{Code: "libraryHasNoStrokeForPhaseName", Message: "The library has no stroke for the phase “" + text(name) + "”.", Values: map[string]string{"name": text(name)}}
}

func ConcernStudiosOwnAddStrokeByHand() Sentence {
	return Sentence{Code: "concernStudiosOwnAddStrokeByHand", Message: "The concern is the studio’s own; add a stroke by hand."}
}

func TheLibraryHasNoStrokeForMissing(missing any) Sentence {
	return Sentence{Code: "theLibraryHasNoStrokeForMissing", Message: "The library has no stroke for " + text(missing) + ".", Values: map[string]string{"missing": text(missing)}}
}

func StrokeHasNoOtherWayDoingThat() Sentence {
	return Sentence{Code: "strokeHasNoOtherWayDoingThat", Message: "The stroke has no other way of doing it that serves here."}
}

func TheLibraryHasNoStrokeKey(key any) Sentence {
	return Sentence{Code: "theLibraryHasNoStrokeKey", Message: "The library has no stroke “" + text(key) + "”.", Values: map[string]string{"key": text(key)}}
}

func ThereIsNoCommandCommand(command any) Sentence {
	return Sentence{Code: "thereIsNoCommandCommand", Message: "There is no command “" + text(command) + "”.", Values: map[string]string{"command": text(command)}}
}

func ThePlanHasNoOpeningToReverse() Sentence {
	return Sentence{Code: "thePlanHasNoOpeningToReverse", Message: "The plan has no opening to reverse."}
}

func ThereIsNoConcernKey(key any) Sentence {
	return Sentence{Code: "thereIsNoConcernKey", Message: "There is no concern “" + text(key) + "”.", Values: map[string]string{"key": text(key)}}
}

func NoStepPlanWorksZonesThatConcern() Sentence {
	return Sentence{Code: "noStepPlanWorksZonesThatConcern", Message: "No step of the plan works the zones of that concern."}
}

func NoLaterStepOpensThatNode() Sentence {
	return Sentence{Code: "noLaterStepOpensThatNode", Message: "No later step opens that node."}
}

func LibraryHasNoStrokeThatOpensG(g any) Sentence {
	return Sentence{Code: "libraryHasNoStrokeThatOpensG", Message: "The library has no stroke that opens " + text(g) + ".", Values: map[string]string{"g": text(g)}}
}

func LibraryHasNoGlidingStrokeDownCollarbone() Sentence {
	return Sentence{Code: "libraryHasNoGlidingStrokeDownCollarbone", Message: "The library has no gliding stroke down to the collarbone hollow."}
}

func PlanHasNoWorkOnBothSides() Sentence {
	return Sentence{Code: "planHasNoWorkOnBothSides", Message: "The plan has no work on both sides to split."}
}

func EveryStepIsWorkedSoAlready() Sentence {
	return Sentence{Code: "everyStepIsWorkedSoAlready", Message: "Every step is worked so already."}
}

func NoStepMirrorsAnotherWorkOneSide() Sentence {
	return Sentence{Code: "noStepMirrorsAnotherWorkOneSide", Message: "No step mirrors another. Work one side first, then the other."}
}

func PlanUsesNoProductThatSlidesChoose() Sentence {
	return Sentence{Code: "planUsesNoProductThatSlidesChoose", Message: "The plan uses no product that slides; choose one for the step."}
}

func TheLibraryHasNoSpreadingStroke() Sentence {
	return Sentence{Code: "theLibraryHasNoSpreadingStroke", Message: "The library has no spreading stroke."}
}

func TheLibraryHasNoStrokeForBlotting() Sentence {
	return Sentence{Code: "theLibraryHasNoStrokeForBlotting", Message: "The library has no stroke for blotting."}
}

func ThereIsNoMistOnTheShelf() Sentence {
	return Sentence{Code: "thereIsNoMistOnTheShelf", Message: "There is no mist on the shelf."}
}

func ThisCouldNotBeDoneNothingWas() Sentence {
	return Sentence{Code: "thisCouldNotBeDoneNothingWas", Message: "This could not be done, and nothing was changed. Try another way."}
}

func HoursEndBeforeTheyBegin(day any) Sentence {
	return Sentence{Code: "hoursEndBeforeTheyBegin", Message: "The hours on " + text(day) + " end before they begin. Correct the times.", Values: map[string]string{"day": text(day)}}
}

func DraftNoSlip() Sentence {
	return Sentence{Code: "draftNoSlip", Message: "No product on the shelf lets the hands slide on this skin. Add an oil, cream or serum, or choose dry work."}
}

func DraftNoStroke(zones any) Sentence {
	return Sentence{Code: "draftNoStroke", Message: "No stroke in the library works " + text(zones) + " with this skin and these tools. Choose another concern or more tools.", Values: map[string]string{"zones": text(zones)}}
}

func DraftTooShort() Sentence {
	return Sentence{Code: "draftTooShort", Message: "Opening, the work for these concerns and closing do not fit into this time. Choose more minutes or fewer concerns."}
}

func DraftTooLong() Sentence {
	return Sentence{Code: "draftTooLong", Message: "The strokes that suit do not fill this time. Choose fewer minutes or more concerns."}
}

func DraftNotPassing(steps any) Sentence {
	return Sentence{Code: "draftNotPassing", Message: "We could not create a draft that follows all the rules. These steps are in the way: " + text(steps) + ".", Values: map[string]string{"steps": text(steps)}}
}

func SentDoesNotFit(what any) Sentence {
	return Sentence{Code: "sentDoesNotFit", Message: "Some details could not be read: " + text(what) + ".", Values: map[string]string{"what": text(what)}}
}

func SentDoesNotFitAt(path, what any) Sentence {
	return Sentence{Code: "sentDoesNotFitAt", Message: "Some details could not be read. Check " + text(path) + ": " + text(what) + ".", Values: map[string]string{"path": text(path), "what": text(what)}}
}

func MissingHere(names any) Sentence {
	return Sentence{Code: "missingHere", Message: "Missing here: " + text(names) + ". Add what is missing.", Values: map[string]string{"names": text(names)}}
}

func NotKnownHere(names any) Sentence {
	return Sentence{Code: "notKnownHere", Message: "Not known here: " + text(names) + ". Remove it, or correct its name.", Values: map[string]string{"names": text(names)}}
}

func ThisMustNotBeEmpty() Sentence {
	return Sentence{Code: "thisMustNotBeEmpty", Message: "This must not be empty."}
}

func ThisIsLongerThanCharacters(most any) Sentence {
	return Sentence{Code: "thisIsLongerThanCharacters", Message: "This is longer than " + text(most) + " characters. Shorten it.", Values: map[string]string{"most": text(most)}}
}

func NotWrittenAsThisFieldNeeds(got, want any) Sentence {
	return Sentence{Code: "notWrittenAsThisFieldNeeds", Message: "“" + text(got) + "” is not written in the way this field needs (" + text(want) + ").", Values: map[string]string{"got": text(got), "want": text(want)}}
}

func ASchemaFault(fault any) Sentence {
	return Sentence{Code: "aSchemaFault", Message: text(fault) + ".", Values: map[string]string{"fault": text(fault)}}
}

func TextContainsCharacterThatCannotBeSaved() Sentence {
	return Sentence{Code: "textContainsCharacterThatCannotBeSaved", Message: "The text contains a character that cannot be saved. Type it again."}
}

func NumberOrDateTooLargeToSave() Sentence {
	return Sentence{Code: "numberOrDateTooLargeToSave", Message: "A number or a date is too large to be saved. Check your entry."}
}

func TheRequestCouldNotBeRead() Sentence {
	return Sentence{Code: "theRequestCouldNotBeRead", Message: "The request could not be read."}
}

func DatabaseAwayTryAgain() Sentence {
	return Sentence{Code: "databaseAwayTryAgain", Message: "The studio’s data cannot be reached at the moment, and nothing was changed. Try again in a few seconds."}
}

func TooManyAttemptsWaitSeconds(seconds any) Sentence {
	return Sentence{Code: "tooManyAttemptsWaitSeconds", Message: "Too many attempts. Wait " + text(seconds) + " " + count(seconds, "second", "seconds") + ", then try again.", Values: map[string]string{"seconds": text(seconds)}}
}

func SomebodyElseChangedThisMeanwhile() Sentence {
	return Sentence{Code: "somebodyElseChangedThisMeanwhile", Message: "Somebody else has changed this meanwhile. Choose for each difference which of the two to keep, then save again."}
}

func ThisKeyWasUsedForAnotherRequest() Sentence {
	return Sentence{Code: "thisKeyWasUsedForAnotherRequest", Message: "This key was used for another request. Send a new key with a new request."}
}

func AlreadyMadeMakeANewOne() Sentence {
	return Sentence{Code: "alreadyMadeMakeANewOne", Message: "This has already been made, and what it showed is shown only once. Make a new one."}
}

func ThisAppointmentIsOnAnotherDay(day any) Sentence {
	return Sentence{Code: "thisAppointmentIsOnAnotherDay", Message: "This appointment is on " + text(day) + ". Move it to today, or ask the owner to begin it today with a reason.", Values: map[string]string{"day": text(day)}}
}

func AnotherAppointmentWasBookedUnderThisId() Sentence {
	return Sentence{Code: "anotherAppointmentWasBookedUnderThisId", Message: "Another appointment was booked under this id, or it was moved since. Look at it in the diary before you book again."}
}

func AKeyHasBetween(least, most any) Sentence {
	return Sentence{Code: "aKeyHasBetween", Message: "A key has " + text(least) + " to " + text(most) + " characters.", Values: map[string]string{"least": text(least), "most": text(most)}}
}

func WriteTheNoteInUpToCharacters(n any) Sentence {
	return Sentence{Code: "writeTheNoteInUpToCharacters", Message: "Write the note, in up to " + text(n) + " characters.", Values: map[string]string{"n": text(n)}}
}

func ChooseThePlaceOrTheStrokeOfTheNote() Sentence {
	return Sentence{Code: "chooseThePlaceOrTheStrokeOfTheNote", Message: "Choose the place or the stroke that the note is about."}
}

func RemoveANoteFirst(n any) Sentence {
	return Sentence{Code: "removeANoteFirst", Message: "A client’s file holds up to " + text(n) + " notes. Remove one that is no longer needed first.", Values: map[string]string{"n": text(n)}}
}

func ASeriesHasAtMost60Visits() Sentence {
	return Sentence{Code: "aSeriesHasAtMost60Visits", Message: "A series has at most 60 visits. Book the first part now and the rest later."}
}

func ThisProtocolIsNotPublishedYet() Sentence {
	return Sentence{Code: "thisProtocolIsNotPublishedYet", Message: "This protocol is not published yet. Choose one that is, or publish it first."}
}

func ThereIsNoSuchVisit() Sentence {
	return Sentence{Code: "thereIsNoSuchVisit", Message: "The series has no such visit. Load it again."}
}

func TheSeriesHasOtherVisits() Sentence {
	return Sentence{Code: "theSeriesHasOtherVisits", Message: "The series has changed meanwhile. Search again."}
}

func ThisSeriesIsOver() Sentence {
	return Sentence{Code: "thisSeriesIsOver", Message: "This series is over. Begin a new one."}
}

func ThisSeriesIsBookedAlready() Sentence {
	return Sentence{Code: "thisSeriesIsBookedAlready", Message: "This series is booked already. Cancel its appointments instead."}
}

func ThisHoldHasLapsed() Sentence {
	return Sentence{Code: "thisHoldHasLapsed", Message: "This hold has lapsed. Search again."}
}

func AHoldIsRenewedOnce() Sentence {
	return Sentence{Code: "aHoldIsRenewedOnce", Message: "A hold is renewed only once. Book the series or release it."}
}

func ThisVisitCannotBeMovedAnyMore() Sentence {
	return Sentence{Code: "thisVisitCannotBeMovedAnyMore", Message: "This visit has begun or is over. Only visits to come can be moved."}
}

func ThisSeriesCannotBecome(state, to any) Sentence {
	return Sentence{Code: "thisSeriesCannotBecome", Message: "A series that is " + text(state) + " cannot become " + text(to) + ".", Values: map[string]string{"state": text(state), "to": text(to)}}
}

func SayWhyTheSeriesStops() Sentence {
	return Sentence{Code: "sayWhyTheSeriesStops", Message: "Say why the series stops, in a few words."}
}

func PersonIsAwayAtThisTime(name any) Sentence {
	return Sentence{Code: "personIsAwayAtThisTime", Message: text(name) + " is away at this time. Choose another time or another practitioner.", Values: map[string]string{"name": text(name)}}
}

func ThisRoomLacksWhatTheProtocolNeeds() Sentence {
	return Sentence{Code: "thisRoomLacksWhatTheProtocolNeeds", Message: "This room lacks equipment that the protocol needs. Choose another room."}
}

func ThisProtocolAsksForSkill(skill any) Sentence {
	return Sentence{Code: "thisProtocolAsksForSkill", Message: "This protocol asks for a skill or licence that the practitioner does not have on that day: " + text(skill) + ". Choose another practitioner.", Values: map[string]string{"skill": text(skill)}}
}

func NoSetOfToolIsReadyThen(tool any) Sentence {
	return Sentence{Code: "noSetOfToolIsReadyThen", Message: "No set is ready at this time: " + text(tool) + ". Choose a later time.", Values: map[string]string{"tool": text(tool)}}
}

func ThisClientHasAnotherAppointmentThatDay() Sentence {
	return Sentence{Code: "thisClientHasAnotherAppointmentThatDay", Message: "This client has another appointment that day. Choose another day."}
}

func ThisClientCannotComeThen() Sentence {
	return Sentence{Code: "thisClientCannotComeThen", Message: "This client cannot come at this time. Choose another time, or change their hours."}
}

func SeriesCannotBeAsChosen() Sentence {
	return Sentence{Code: "seriesCannotBeAsChosen", Message: "The series no longer fits as chosen. The new best is shown below."}
}

func SearchAgain() Sentence {
	return Sentence{Code: "searchAgain", Message: "The question has changed meanwhile. Search again."}
}

func AnAbsenceEndsAfterItBegins() Sentence {
	return Sentence{Code: "anAbsenceEndsAfterItBegins", Message: "An absence ends after it begins, within two weeks. Correct the times."}
}

func PractitionerIsAwayReason() Sentence {
	return Sentence{Code: "practitionerIsAwayReason", Message: "Practitioner is away"}
}

func TheDayHasChangedMeanwhile() Sentence {
	return Sentence{Code: "theDayHasChangedMeanwhile", Message: "The day has changed meanwhile. Look at the new plan and accept it."}
}

func SayHowManyVisitsTheSeriesHas() Sentence {
	return Sentence{Code: "sayHowManyVisitsTheSeriesHas", Message: "Say how many visits the series has and how often, such as \"6 weekly\"."}
}

func WhoMissedAnAppointmentArrivesTheSameDayOnly() Sentence {
	return Sentence{Code: "whoMissedAnAppointmentArrivesTheSameDayOnly", Message: "This appointment was missed on another day. Book a new one."}
}

func ClientsArriveFromTwoHoursBefore() Sentence {
	return Sentence{Code: "clientsArriveFromTwoHoursBefore", Message: "A client is marked as arrived from two hours before the start until the end of that day."}
}

func NobodyMissesBeforeAQuarterOfAnHour() Sentence {
	return Sentence{Code: "nobodyMissesBeforeAQuarterOfAnHour", Message: "Wait until 15 minutes after the start before marking a client as not come."}
}

func TheseHoursWereNotUnderstood(text_ any) Sentence {
	return Sentence{Code: "theseHoursWereNotUnderstood", Message: "These hours were not understood: " + text(text_) + ". Write them such as \"mon tue 12-19, fri off\".", Values: map[string]string{"text": text(text_)}}
}

func AShiftEndsAfterItBegins() Sentence {
	return Sentence{Code: "aShiftEndsAfterItBegins", Message: "A shift ends after it begins. Correct the days."}
}

func MessageAppointments(name, studio, link any) Sentence {
	return Sentence{Code: "messageAppointments", Message: "Dear " + text(name) + ",\n\nhere are your appointments at " + text(studio) + ". You can confirm them, ask to move one or cancel it:\n\n" + text(link) + "\n\nThe link is only for you. You get this message because you have an appointment with us; tell us if you do not want such messages.", Values: map[string]string{"name": text(name), "studio": text(studio), "link": text(link)}}
}

func SubjectAppointments(studio any) Sentence {
	return Sentence{Code: "subjectAppointments", Message: "Your appointments, " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func ByTheClientsLink() Sentence {
	return Sentence{Code: "byTheClientsLink", Message: "By the client, on their page"}
}

func CallTheStudioAboutThisAppointment() Sentence {
	return Sentence{Code: "callTheStudioAboutThisAppointment", Message: "This appointment can no longer be changed here. Please call the studio."}
}

func AsksToMove(text_ any) Sentence {
	return Sentence{Code: "asksToMove", Message: "Asks to move: " + text(text_), Values: map[string]string{"text": text(text_)}}
}

func SubjectBooking(studio any) Sentence {
	return Sentence{Code: "subjectBooking", Message: "Booked: your appointments at " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func SubjectMoving(studio any) Sentence {
	return Sentence{Code: "subjectMoving", Message: "A new time for your appointment at " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func SubjectCancelling(studio any) Sentence {
	return Sentence{Code: "subjectCancelling", Message: "Cancelled: your appointment at " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func SubjectReminder(studio any) Sentence {
	return Sentence{Code: "subjectReminder", Message: "About your appointment at " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func SubjectProgress(studio any) Sentence {
	return Sentence{Code: "subjectProgress", Message: "How far a series has come, " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func TellHello(name any) Sentence {
	return Sentence{Code: "tellHello", Message: "Dear " + text(name) + ",", Values: map[string]string{"name": text(name)}}
}

func TellBooked(name, studio any) Sentence {
	return Sentence{Code: "tellBooked", Message: "Dear " + text(name) + ",\n\nthis is booked for you at " + text(studio) + ":", Values: map[string]string{"name": text(name), "studio": text(studio)}}
}

func TellMoved(name, studio any) Sentence {
	return Sentence{Code: "tellMoved", Message: "Dear " + text(name) + ",\n\nyour appointment at " + text(studio) + " has a new time:", Values: map[string]string{"name": text(name), "studio": text(studio)}}
}

func TellCancelled(name, studio any) Sentence {
	return Sentence{Code: "tellCancelled", Message: "Dear " + text(name) + ",\n\nthis appointment at " + text(studio) + " is cancelled:", Values: map[string]string{"name": text(name), "studio": text(studio)}}
}

func TellSlot(start, end, practitioner any) Sentence {
	return Sentence{Code: "tellSlot", Message: text(start) + " to " + text(end) + ", with " + text(practitioner) + ".", Values: map[string]string{"start": text(start), "end": text(end), "practitioner": text(practitioner)}}
}

func TellBefore(was any) Sentence {
	return Sentence{Code: "tellBefore", Message: "It was on " + text(was) + ".", Values: map[string]string{"was": text(was)}}
}

func TellPrice(price any) Sentence {
	return Sentence{Code: "tellPrice", Message: "Price: " + text(price) + ".", Values: map[string]string{"price": text(price)}}
}

func TellFreeUntil(until any) Sentence {
	return Sentence{Code: "tellFreeUntil", Message: "Moving or cancelling it is free until " + text(until) + ".", Values: map[string]string{"until": text(until)}}
}

func TellNotFree() Sentence {
	return Sentence{Code: "tellNotFree", Message: "Moving or cancelling it is no longer free."}
}

func TellWhere(address any) Sentence {
	return Sentence{Code: "tellWhere", Message: "Where: " + text(address), Values: map[string]string{"address": text(address)}}
}

func TellPage(link any) Sentence {
	return Sentence{Code: "tellPage", Message: "Your page, to confirm, ask to move or cancel, with a file for your calendar:\n" + text(link), Values: map[string]string{"link": text(link)}}
}

func TellWhy(studio, link any) Sentence {
	return Sentence{Code: "tellWhy", Message: "You get this message because you have or had an appointment at " + text(studio) + ". To stop such messages: " + text(link), Values: map[string]string{"studio": text(studio), "link": text(link)}}
}

func TellConsultation(link any) Sentence {
	return Sentence{Code: "tellConsultation", Message: "Please answer a few questions before you come:\n" + text(link), Values: map[string]string{"link": text(link)}}
}

func TellPatchTest(slot any) Sentence {
	return Sentence{Code: "tellPatchTest", Message: "Please come for a short appointment before: ten minutes, and we look at the spot when you come for your treatment. " + text(slot), Values: map[string]string{"slot": text(slot)}}
}

func TellArrive(start any) Sentence {
	return Sentence{Code: "tellArrive", Message: "We look forward to seeing you on " + text(start) + ".", Values: map[string]string{"start": text(start)}}
}

func TellAnythingNew(slot any) Sentence {
	return Sentence{Code: "tellAnythingNew", Message: "Is anything new since last time that we should know? Please tell us before you come, and confirm your appointment or ask to move it: " + text(slot), Values: map[string]string{"slot": text(slot)}}
}

func TellAnythingNewConfirmed(slot any) Sentence {
	return Sentence{Code: "tellAnythingNewConfirmed", Message: "Is anything new since last time that we should know? Please tell us before you come: " + text(slot), Values: map[string]string{"slot": text(slot)}}
}

func TellReminder(slot any) Sentence {
	return Sentence{Code: "tellReminder", Message: "A reminder of your appointment: " + text(slot), Values: map[string]string{"slot": text(slot)}}
}

func TellShort(slot any) Sentence {
	return Sentence{Code: "tellShort", Message: "See you soon: " + text(slot), Values: map[string]string{"slot": text(slot)}}
}

func TellNextDay(start any) Sentence {
	return Sentence{Code: "tellNextDay", Message: "How is your skin after your appointment on " + text(start) + "? Call us if anything worries you, and see a doctor if it gets worse. Please go on with the home care we agreed on.", Values: map[string]string{"start": text(start)}}
}

func TellHalfWay(n, of any) Sentence {
	return Sentence{Code: "tellHalfWay", Message: "Half of your series is done: " + text(n) + " of " + text(of) + ".", Values: map[string]string{"n": text(n), "of": text(of)}}
}

func TellTwoLeft() Sentence {
	return Sentence{Code: "tellTwoLeft", Message: "Two appointments of your series are left."}
}

func TellReviewDue() Sentence {
	return Sentence{Code: "tellReviewDue", Message: "Your series is done. Let us look together at what has changed: ask us for a time, or bring it up when you come next."}
}

func ProgressHalfWay(name, who, n, of any) Sentence {
	return Sentence{Code: "progressHalfWay", Message: text(name) + ", the series of " + text(who) + " is half done: " + text(n) + " of " + text(of) + ".", Values: map[string]string{"name": text(name), "who": text(who), "n": text(n), "of": text(of)}}
}

func ProgressTwoLeft(name, who, n, of any) Sentence {
	return Sentence{Code: "progressTwoLeft", Message: text(name) + ", two appointments of the series of " + text(who) + " are left: " + text(n) + " of " + text(of) + " are done.", Values: map[string]string{"name": text(name), "who": text(who), "n": text(n), "of": text(of)}}
}

func ProgressReviewDue(name, who, of any) Sentence {
	return Sentence{Code: "progressReviewDue", Message: text(name) + ", the series of " + text(who) + " is done, " + text(of) + " of " + text(of) + ". Its end review is due.", Values: map[string]string{"name": text(name), "who": text(who), "of": text(of)}}
}

func YouHoldSeriesAlready(n any) Sentence {
	return Sentence{Code: "youHoldSeriesAlready", Message: "You are holding " + text(n) + " series already. Book or release one of them first.", Values: map[string]string{"n": text(n)}}
}

func AnotherOfferWaitsForThisClient() Sentence {
	return Sentence{Code: "anotherOfferWaitsForThisClient", Message: "Another offer waits for this client’s answer. Let it lapse, or book it, first."}
}

func ThisClientGetsNoMessages() Sentence {
	return Sentence{Code: "thisClientGetsNoMessages", Message: "This client has no e-mail address or telephone number, or wants no messages. Call them."}
}

func EnterATimeLikeHalfPastEight() Sentence {
	return Sentence{Code: "enterATimeLikeHalfPastEight", Message: "Enter a time such as 20:30."}
}

func TheQuietHoursBeginInTheEvening() Sentence {
	return Sentence{Code: "theQuietHoursBeginInTheEvening", Message: "The quiet hours begin in the evening and end in the morning."}
}

func ThisLiesInTheQuietHours() Sentence {
	return Sentence{Code: "thisLiesInTheQuietHours", Message: "This lies in the quiet hours."}
}

func SubjectOffer(studio any) Sentence {
	return Sentence{Code: "subjectOffer", Message: "A time is held for you at " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func TellOffer(name, studio, until any) Sentence {
	return Sentence{Code: "tellOffer", Message: "Dear " + text(name) + ",\n\nthis is held for you at " + text(studio) + " until " + text(until) + ":", Values: map[string]string{"name": text(name), "studio": text(studio), "until": text(until)}}
}

func TellTakeIt() Sentence {
	return Sentence{Code: "tellTakeIt", Message: "Take it or let it go on your page. If you do not answer, it goes to somebody else."}
}

func ThisIsNotACalendarFile() Sentence {
	return Sentence{Code: "thisIsNotACalendarFile", Message: "This is not a calendar file. Choose a file that ends in .ics."}
}

func ThisCalendarCannotBeRead(why any) Sentence {
	return Sentence{Code: "thisCalendarCannotBeRead", Message: "This calendar cannot be read: " + text(why) + ". Nothing was changed.", Values: map[string]string{"why": text(why)}}
}

func ThisIsNotAFileOfContacts() Sentence {
	return Sentence{Code: "thisIsNotAFileOfContacts", Message: "This is not a file of contacts. Choose a file that ends in .vcf."}
}

func ThisVersionOfContactsIsNotRead(version any) Sentence {
	return Sentence{Code: "thisVersionOfContactsIsNotRead", Message: "Contacts of version " + text(version) + " are not read. Save them as vCard 3.0 or 4.0.", Values: map[string]string{"version": text(version)}}
}

func ThisFileHoldsTooManyContacts() Sentence {
	return Sentence{Code: "thisFileHoldsTooManyContacts", Message: "This file holds too many contacts. Divide it."}
}

func ThisContactIsTooLong() Sentence {
	return Sentence{Code: "thisContactIsTooLong", Message: "The name, e-mail address or telephone number is too long."}
}

func TellTrial() Sentence {
	return Sentence{Code: "tellTrial", Message: "A product is tried on a small spot of skin."}
}

func ChooseTwoDifferentClients() Sentence {
	return Sentence{Code: "chooseTwoDifferentClients", Message: "Choose different clients for each."}
}

func WasToComeWith(name any) Sentence {
	return Sentence{Code: "wasToComeWith", Message: "was to come with " + text(name) + ", who has cancelled: do they still come?", Values: map[string]string{"name": text(name)}}
}

func ChooseAProcedure() Sentence {
	return Sentence{Code: "chooseAProcedure", Message: "Choose which procedure is planned."}
}

func EnterADayFromTodayOn() Sentence {
	return Sentence{Code: "enterADayFromTodayOn", Message: "Enter a day from today on."}
}

func ADoctorsAnswerIsAwaitedUntil(day any) Sentence {
	return Sentence{Code: "aDoctorsAnswerIsAwaitedUntil", Message: "A doctor’s answer is expected on " + text(day) + ". Book from that day on.", Values: map[string]string{"day": text(day)}}
}

func AProcedureElsewhereIsPlannedThen() Sentence {
	return Sentence{Code: "aProcedureElsewhereIsPlannedThen", Message: "This client has a procedure elsewhere planned; this day lies in its waiting period."}
}

func SayWhatTheReviewFound() Sentence {
	return Sentence{Code: "sayWhatTheReviewFound", Message: "Say what the review found."}
}

func TheReviewComesWithTheLastVisit() Sentence {
	return Sentence{Code: "theReviewComesWithTheLastVisit", Message: "The end review comes with the last treatment of the series, or after it."}
}

func NothingIsJudgedBefore(day any) Sentence {
	return Sentence{Code: "nothingIsJudgedBefore", Message: "Nothing is judged before a fortnight of regular work: review this series from " + text(day) + " on.", Values: map[string]string{"day": text(day)}}
}

func TheStudioHasFewerPieces() Sentence {
	return Sentence{Code: "theStudioHasFewerPieces", Message: "The studio has fewer pieces of this tool."}
}

func EnterWhenItIsBack() Sentence {
	return Sentence{Code: "enterWhenItIsBack", Message: "Enter the last day on which it is away."}
}

func ThisClientIsHereOrNotComing() Sentence {
	return Sentence{Code: "thisClientIsHereOrNotComing", Message: "This client is here already, or is not coming."}
}

func SayWhatIsOfferedForTheWait() Sentence {
	return Sentence{Code: "sayWhatIsOfferedForTheWait", Message: "From 20 minutes on, say what is offered for the wait."}
}

func SubjectLate(studio any) Sentence {
	return Sentence{Code: "subjectLate", Message: "We are running late, " + text(studio), Values: map[string]string{"studio": text(studio)}}
}

func TellRunningLate(name, minutes, time any) Sentence {
	return Sentence{Code: "tellRunningLate", Message: "Dear " + text(name) + ",\n\nwe are about " + text(minutes) + " minutes late today. Please come at " + text(time) + ". We are sorry.", Values: map[string]string{"name": text(name), "minutes": text(minutes), "time": text(time)}}
}

func NoCalendarCanBeReadThere(why any) Sentence {
	return Sentence{Code: "noCalendarCanBeReadThere", Message: "No calendar can be read there: " + text(why) + ". Check the address.", Values: map[string]string{"why": text(why)}}
}

func HomeCareWasChangedMeanwhile(text_ any) Sentence {
	return Sentence{Code: "homeCareWasChangedMeanwhile", Message: "Somebody changed the home care meanwhile. It now says: “" + text(text_) + "” Bring the two together, and save again.", Values: map[string]string{"text": text(text_)}}
}

func ThereIsARoomOfThisName() Sentence {
	return Sentence{Code: "thereIsARoomOfThisName", Message: "There is a room of this name already. Choose another name."}
}

func TheFirstReadingIsMadeOnTheSkin() Sentence {
	return Sentence{Code: "theFirstReadingIsMadeOnTheSkin", Message: "The first reading is made on the skin. Only the one after 48 hours can be made from a picture."}
}

func CountsNeedTheirSeconds() Sentence {
	return Sentence{Code: "countsNeedTheirSeconds", Message: "Counts need the seconds of one count."}
}

func NothingToClearCalled(what, all any) Sentence {
	return Sentence{Code: "nothingToClearCalled", Message: "A step cannot clear “" + text(what) + "” of its stroke. It can clear: " + text(all) + ".", Values: map[string]string{"what": text(what), "all": text(all)}}
}

func TheToolHasNoPart(tool, part, parts any) Sentence {
	return Sentence{Code: "theToolHasNoPart", Message: text(tool) + " has no part “" + text(part) + "”. It has: " + text(parts) + ".", Values: map[string]string{"tool": text(tool), "part": text(part), "parts": text(parts)}}
}

func ThereIsNoConcern(concern any) Sentence {
	return Sentence{Code: "thereIsNoConcern", Message: "There is no concern “" + text(concern) + "”.", Values: map[string]string{"concern": text(concern)}}
}

func ThereIsNoStepStep(step any) Sentence {
	return Sentence{Code: "thereIsNoStepStep", Message: "There is no step “" + text(step) + "”.", Values: map[string]string{"step": text(step)}}
}

func ThereIsNoSkin(skin, all any) Sentence {
	return Sentence{Code: "thereIsNoSkin", Message: "There is no skin type or state “" + text(skin) + "”. There are: " + text(all) + ".", Values: map[string]string{"skin": text(skin), "all": text(all)}}
}

func ThereIsNoFinding(finding any) Sentence {
	return Sentence{Code: "thereIsNoFinding", Message: "No check finds “" + text(finding) + "”.", Values: map[string]string{"finding": text(finding)}}
}

func KeyOfOwnZone(key any) Sentence {
	return Sentence{Code: "keyOfOwnZone", Message: "“" + text(key) + "” cannot be the key of a zone of your own. Begin it with “own-”, then small letters, digits and hyphens, e.g. “own-calf”.", Values: map[string]string{"key": text(key)}}
}

func NameTheZone() Sentence {
	return Sentence{Code: "nameTheZone", Message: "Name the zone, e.g. “Calves”."}
}

func CeilingOfZone() Sentence {
	return Sentence{Code: "ceilingOfZone", Message: "Give the most pressure that the zone takes, from 1 to 5."}
}

func ThereIsNoNodeGroup(group any) Sentence {
	return Sentence{Code: "thereIsNoNodeGroup", Message: "There is no group of lymph nodes “" + text(group) + "”. Choose one of the list, or none.", Values: map[string]string{"group": text(group)}}
}

func TheStudioHasNoZone(zone any) Sentence {
	return Sentence{Code: "theStudioHasNoZone", Message: "The studio has no zone of its own “" + text(zone) + "”. Add it to the body zones, or choose another zone.", Values: map[string]string{"zone": text(zone)}}
}

func ZoneInUse(user any) Sentence {
	return Sentence{Code: "zoneInUse", Message: "“" + text(user) + "” works this zone. Take it out of that plan or stroke first.", Values: map[string]string{"user": text(user)}}
}

func TooManyOwnZones(most any) Sentence {
	return Sentence{Code: "tooManyOwnZones", Message: "A studio can have " + text(most) + " zones of its own. Remove one that you no longer work.", Values: map[string]string{"most": text(most)}}
}

func ThereIsZoneNamed(name any) Sentence {
	return Sentence{Code: "thereIsZoneNamed", Message: "There is a zone “" + text(name) + "” already. Choose another name.", Values: map[string]string{"name": text(name)}}
}

func RuleNamesOwnZone(zone any) Sentence {
	return Sentence{Code: "ruleNamesOwnZone", Message: "Rules and answers name zones that Soft Palm knows. “" + text(zone) + "” is one of your own: say in words at the step what to watch for there.", Values: map[string]string{"zone": text(zone)}}
}

func LotIsRecalled(lot any) Sentence {
	return Sentence{Code: "lotIsRecalled", Message: "Lot " + text(lot) + " is recalled. It is not used any more; take another lot.", Values: map[string]string{"lot": text(lot)}}
}

func LotIsBlocked(lot any) Sentence {
	return Sentence{Code: "lotIsBlocked", Message: "Lot " + text(lot) + " is blocked. Take another lot, or give the reason why you use it.", Values: map[string]string{"lot": text(lot)}}
}

func LotIsPastItsDay(lot any) Sentence {
	return Sentence{Code: "lotIsPastItsDay", Message: "Lot " + text(lot) + " is past its day. Take another lot, or dispose of it.", Values: map[string]string{"lot": text(lot)}}
}

func ChooseWhyItWasWasted() Sentence {
	return Sentence{Code: "chooseWhyItWasWasted", Message: "Choose why it was wasted."}
}

func OnlyAWholePackLeavesThisWay(left any) Sentence {
	return Sentence{Code: "onlyAWholePackLeavesThisWay", Message: "Only a whole pack leaves the shelf this way; this one holds " + text(left) + ".", Values: map[string]string{"left": text(left)}}
}

func OnlyASealedPackLeavesThisWay() Sentence {
	return Sentence{Code: "onlyASealedPackLeavesThisWay", Message: "This pack is open. Only a sealed pack can be sold or put out as a tester."}
}

func ABatchIsNeverSold() Sentence {
	return Sentence{Code: "aBatchIsNeverSold", Message: "A batch mixed in the studio is never sold. It is for treatments only."}
}

func NoMoreThanWasSoldComesBack() Sentence {
	return Sentence{Code: "noMoreThanWasSoldComesBack", Message: "More comes back than was sold of this lot. Check the lot number."}
}

func NeverWeighedForThisProduct(measure any) Sentence {
	return Sentence{Code: "neverWeighedForThisProduct", Message: text(measure) + " were never weighed for this product. Weigh some on the shelf page, or choose another measure.", Values: map[string]string{"measure": text(measure)}}
}

func DensityIsNotKnown() Sentence {
	return Sentence{Code: "densityIsNotKnown", Message: "The density of this product is not known. Weigh 10 mL of it and enter the density, or choose another measure."}
}

func ItWeighsMoreAfterThanBefore() Sentence {
	return Sentence{Code: "itWeighsMoreAfterThanBefore", Message: "It weighs more after than before. Did the cap go back on?"}
}

func EnterWhatWasMeasured() Sentence {
	return Sentence{Code: "enterWhatWasMeasured", Message: "Enter what you measured, or choose “As planned”."}
}

func EnterTheSuppliersName() Sentence {
	return Sentence{Code: "enterTheSuppliersName", Message: "Enter the supplier’s name."}
}

func EnterWhatMakingAnOrderCosts() Sentence {
	return Sentence{Code: "enterWhatMakingAnOrderCosts", Message: "Enter what making one order costs, above 0, such as 9.00."}
}

func ChooseAServiceLevel() Sentence {
	return Sentence{Code: "chooseAServiceLevel", Message: "Choose a service level of 90, 95, 98 or 99 per cent."}
}

func EnterAPercentageAbove0() Sentence {
	return Sentence{Code: "enterAPercentageAbove0", Message: "Enter a percentage above 0."}
}

func EnterTheScalesStep() Sentence {
	return Sentence{Code: "enterTheScalesStep", Message: "Enter the finest step your scale shows, such as 0.01 g."}
}

func ThisOrderWasSentAlready() Sentence {
	return Sentence{Code: "thisOrderWasSentAlready", Message: "This order was sent already. Receive it, or close it and write another."}
}

func EachLineNamesAProductOnce() Sentence {
	return Sentence{Code: "eachLineNamesAProductOnce", Message: "Each line names a product on the shelf, and each product once."}
}

func NothingIsToComeOfThisOrder() Sentence {
	return Sentence{Code: "nothingIsToComeOfThisOrder", Message: "Nothing is to come of this order any more. Receive the delivery without it."}
}

func MoreCameThanWasOrdered(toCome, name any) Sentence {
	return Sentence{Code: "moreCameThanWasOrdered", Message: "Only " + text(toCome) + " packs of " + text(name) + " were still to come. Tick “keep the extra” if you keep them.", Values: map[string]string{"toCome": text(toCome), "name": text(name)}}
}

func ChooseAProductOnTheShelf() Sentence {
	return Sentence{Code: "chooseAProductOnTheShelf", Message: "Choose a product on the shelf."}
}

func LotIsThereWithAnotherDay(lot, day any) Sentence {
	return Sentence{Code: "lotIsThereWithAnotherDay", Message: "Lot " + text(lot) + " is in stock with the use-by date " + text(day) + ". Check the number and the date on the pack.", Values: map[string]string{"lot": text(lot), "day": text(day)}}
}

func PiecesAreWholeNumbers() Sentence {
	return Sentence{Code: "piecesAreWholeNumbers", Message: "Pieces are whole numbers."}
}

func EnterADateOrMonthsOpen() Sentence {
	return Sentence{Code: "enterADateOrMonthsOpen", Message: "Enter the use-by date, or how many months a pack keeps once opened."}
}

func GoodForLessLongThanWanted(day, days any) Sentence {
	return Sentence{Code: "goodForLessLongThanWanted", Message: "Use by " + text(day) + ": the studio wants at least " + text(days) + " days. Tick “keep it anyway” if you keep it.", Values: map[string]string{"day": text(day), "days": text(days)}}
}

func SayWhyItIsTakenBack() Sentence {
	return Sentence{Code: "sayWhyItIsTakenBack", Message: "Say why it is taken back."}
}

func ThisWasTakenBackAlready() Sentence {
	return Sentence{Code: "thisWasTakenBackAlready", Message: "This entry was taken back already."}
}

func ThisCannotBeTakenBack() Sentence {
	return Sentence{Code: "thisCannotBeTakenBack", Message: "This entry cannot be taken back."}
}

func ChooseCabinOrRetail() Sentence {
	return Sentence{Code: "chooseCabinOrRetail", Message: "Choose the treatment side or the retail side."}
}

func ThisCodeCannotBeRead(why any) Sentence {
	return Sentence{Code: "thisCodeCannotBeRead", Message: "This code cannot be read: " + text(why) + ". Scan it again, or type the lot number.", Values: map[string]string{"why": text(why)}}
}

func EnterWhatTheScaleShows() Sentence {
	return Sentence{Code: "enterWhatTheScaleShows", Message: "Enter what the scale shows, in g, above 0."}
}

func EnterTheDensity() Sentence {
	return Sentence{Code: "enterTheDensity", Message: "Enter the density in g per mL, such as 0.92 for an oil."}
}

func CheckTheBarcodeNumber(why any) Sentence {
	return Sentence{Code: "checkTheBarcodeNumber", Message: "Check the number under the barcode: " + text(why) + ".", Values: map[string]string{"why": text(why)}}
}

func AnotherProductHasThisBarcode() Sentence {
	return Sentence{Code: "anotherProductHasThisBarcode", Message: "Another product has this barcode already."}
}

func ChooseWhatToForget() Sentence {
	return Sentence{Code: "chooseWhatToForget", Message: "Choose what to start over: doses or how long it slides."}
}

func SayWhatTheRecallIsFor() Sentence {
	return Sentence{Code: "sayWhatTheRecallIsFor", Message: "Say what the recall is for."}
}

func NoStocktakeIsOpen() Sentence {
	return Sentence{Code: "noStocktakeIsOpen", Message: "No stocktake is open. Start one first."}
}

func EnterWhatYouFound() Sentence {
	return Sentence{Code: "enterWhatYouFound", Message: "Enter what you found in the pack, or what it weighs."}
}

func EnterWhatAnEmptyPackWeighs() Sentence {
	return Sentence{Code: "enterWhatAnEmptyPackWeighs", Message: "Enter what an empty pack weighs, in g."}
}

func GrossAndTareGiveNoAmount() Sentence {
	return Sentence{Code: "grossAndTareGiveNoAmount", Message: "The full weight must be above that of an empty pack. Check both."}
}

func ThatIsMoreThanThePackHolds(size, unit any) Sentence {
	return Sentence{Code: "thatIsMoreThanThePackHolds", Message: "That is more than a pack of " + text(size) + " " + text(unit) + " holds. Check the number.", Values: map[string]string{"size": text(size), "unit": text(unit)}}
}

func CountAgainWhatIsFarOff(lot, pack any) Sentence {
	return Sentence{Code: "countAgainWhatIsFarOff", Message: "Lot " + text(lot) + ", pack " + text(pack) + " is far off what the books show. Count it once more before you close.", Values: map[string]string{"lot": text(lot), "pack": text(pack)}}
}

func NameTheRecipe() Sentence {
	return Sentence{Code: "nameTheRecipe", Message: "Name the recipe."}
}

func EnterHowMuchTheRecipeMakes() Sentence {
	return Sentence{Code: "enterHowMuchTheRecipeMakes", Message: "Enter how much the recipe makes."}
}

func EnterHowLongTheMixKeeps() Sentence {
	return Sentence{Code: "enterHowLongTheMixKeeps", Message: "Enter how long the mix keeps: 0 days for the same day."}
}

func EnterTheAmountOfThePart() Sentence {
	return Sentence{Code: "enterTheAmountOfThePart", Message: "Enter how much of this part goes in."}
}

func AMixOfThisWouldBeExpired() Sentence {
	return Sentence{Code: "aMixOfThisWouldBeExpired", Message: "A part is past its day, so the mix would be too. Take another lot."}
}

func ThereIsNotEnoughForThisPart(have any) Sentence {
	return Sentence{Code: "thereIsNotEnoughForThisPart", Message: "Only " + text(have) + " of this part is in stock. Make less, or take another lot.", Values: map[string]string{"have": text(have)}}
}

func LastsToDelivery(runOut, delivery any) Sentence {
	return Sentence{Code: "lastsToDelivery", Message: "lasts to " + text(runOut) + ", delivery " + text(delivery), Values: map[string]string{"runOut": text(runOut), "delivery": text(delivery)}}
}

func BelowTheStudiosLeast(least, unit any) Sentence {
	return Sentence{Code: "belowTheStudiosLeast", Message: "below the studio’s own least of " + text(least) + " " + text(unit), Values: map[string]string{"least": text(least), "unit": text(unit)}}
}

func AtItsReorderPoint(point, unit any) Sentence {
	return Sentence{Code: "atItsReorderPoint", Message: "at its reorder point of " + text(point) + " " + text(unit), Values: map[string]string{"point": text(point), "unit": text(unit)}}
}

func SayWhyThePieceIsRetired() Sentence {
	return Sentence{Code: "sayWhyThePieceIsRetired", Message: "Say why the piece is retired: chipped, cracked, rusted, loose."}
}

func MakeABathFirst() Sentence {
	return Sentence{Code: "makeABathFirst", Message: "No disinfectant bath is good now. Make one first."}
}

func ThePieceIsStateNow(state any) Sentence {
	return Sentence{Code: "thePieceIsStateNow", Message: "This piece is " + text(state) + " now. Look at the list again.", Values: map[string]string{"state": text(state)}}
}

func NameTheDisinfectant() Sentence {
	return Sentence{Code: "nameTheDisinfectant", Message: "Name the disinfectant."}
}

func NameTheLinen() Sentence {
	return Sentence{Code: "nameTheLinen", Message: "Name the linen."}
}

func ThereAreNotSoManyPieces(n any) Sentence {
	return Sentence{Code: "thereAreNotSoManyPieces", Message: "There are not " + text(n) + " pieces there.", Values: map[string]string{"n": text(n)}}
}

func ThereIsNoSuchPiece() Sentence {
	return Sentence{Code: "thereIsNoSuchPiece", Message: "There is no such piece."}
}

func HeatCycleNumber(number any) Sentence {
	return Sentence{Code: "heatCycleNumber", Message: "heat cycle " + text(number), Values: map[string]string{"number": text(number)}}
}

func ReadTheTemperature() Sentence {
	return Sentence{Code: "readTheTemperature", Message: "Read the temperature and enter it."}
}

func RecallOf(lots any) Sentence {
	return Sentence{Code: "recallOf", Message: "Recall: " + text(lots), Values: map[string]string{"lots": text(lots)}}
}

func PackIsPastItsDay(product, lot any) Sentence {
	return Sentence{Code: "packIsPastItsDay", Message: text(product) + ", lot " + text(lot) + ": past its day", Values: map[string]string{"product": text(product), "lot": text(lot)}}
}

func PackIsOnItsLastDay(product, lot any) Sentence {
	return Sentence{Code: "packIsOnItsLastDay", Message: text(product) + ", lot " + text(lot) + ": last day today", Values: map[string]string{"product": text(product), "lot": text(lot)}}
}

func PackIsBlocked(product, lot, why any) Sentence {
	return Sentence{Code: "packIsBlocked", Message: text(product) + ", lot " + text(lot) + ": blocked, " + text(why), Values: map[string]string{"product": text(product), "lot": text(lot), "why": text(why)}}
}

func NotEnoughForToday(product, left, unit any) Sentence {
	return Sentence{Code: "notEnoughForToday", Message: text(product) + ": " + text(left) + " " + text(unit) + " is not enough for today", Values: map[string]string{"product": text(product), "left": text(left), "unit": text(unit)}}
}

func OrderName(product any) Sentence {
	return Sentence{Code: "orderName", Message: text(product) + " is to be ordered", Values: map[string]string{"product": text(product)}}
}

func NoPieceIsReady(tool, at any) Sentence {
	return Sentence{Code: "noPieceIsReady", Message: text(tool) + ": none ready at " + text(at), Values: map[string]string{"tool": text(tool), "at": text(at)}}
}

func PieceIsReadyLater(tool, at, first any) Sentence {
	return Sentence{Code: "pieceIsReadyLater", Message: text(tool) + ": none ready at " + text(at) + ", the first at " + text(first), Values: map[string]string{"tool": text(tool), "at": text(at), "first": text(first)}}
}

func LookThePieceOver(tool, number, uses any) Sentence {
	return Sentence{Code: "lookThePieceOver", Message: text(tool) + " " + text(number) + ": used " + text(uses) + " times, look it over", Values: map[string]string{"tool": text(tool), "number": text(number), "uses": text(uses)}}
}

func PieceStands(tool, number, state any) Sentence {
	return Sentence{Code: "pieceStands", Message: text(tool) + " " + text(number) + ": " + text(state), Values: map[string]string{"tool": text(tool), "number": text(number), "state": text(state)}}
}

func BathIsPastItsTime(product any) Sentence {
	return Sentence{Code: "bathIsPastItsTime", Message: text(product) + " bath is past its time", Values: map[string]string{"product": text(product)}}
}

func NoBathIsMade() Sentence {
	return Sentence{Code: "noBathIsMade", Message: "No disinfectant bath is made"}
}

func LinenIsShort(kind, n any) Sentence {
	return Sentence{Code: "linenIsShort", Message: text(kind) + ": " + text(n) + " clean ones missing for today", Values: map[string]string{"kind": text(kind), "n": text(n)}}
}

func LinenIsToWash(kind, n any) Sentence {
	return Sentence{Code: "linenIsToWash", Message: text(kind) + ": " + text(n) + " to wash", Values: map[string]string{"kind": text(kind), "n": text(n)}}
}

func RecordIsOpen(client, at any) Sentence {
	return Sentence{Code: "recordIsOpen", Message: text(client) + ", " + text(at) + ": record open", Values: map[string]string{"client": text(client), "at": text(at)}}
}

func ClientIsToKeepAwayFrom(about any) Sentence {
	return Sentence{Code: "clientIsToKeepAwayFrom", Message: "This client is to keep away from it: " + text(about) + ". Say why it is sold all the same, or choose something else.", Values: map[string]string{"about": text(about)}}
}

func SoldDespite(about, why any) Sentence {
	return Sentence{Code: "soldDespite", Message: "Sold despite " + text(about) + ": " + text(why) + ".", Values: map[string]string{"about": text(about), "why": text(why)}}
}

func SayWhatCreditIsExpected() Sentence {
	return Sentence{Code: "sayWhatCreditIsExpected", Message: "Say what credit is expected, and the reference if there is one."}
}

func NothingIsDueForCounting() Sentence {
	return Sentence{Code: "nothingIsDueForCounting", Message: "No pack is due for counting today. Choose places to count them all the same."}
}

func ThisDayIsStillToCome() Sentence {
	return Sentence{Code: "thisDayIsStillToCome", Message: "This day is still to come. Enter today or a day before."}
}

func ThePackCameOnLaterDay() Sentence {
	return Sentence{Code: "thePackCameOnLaterDay", Message: "The pack came later than that day. Enter the day it came, or a later one."}
}

func TheLotWasCountedSince() Sentence {
	return Sentence{Code: "theLotWasCountedSince", Message: "This lot has been counted since that day. Enter a day from the count on."}
}

func EnterADayFromTodayBack() Sentence {
	return Sentence{Code: "enterADayFromTodayBack", Message: "Enter a day up to today, as year-month-day."}
}

func ACountIsOfToday() Sentence {
	return Sentence{Code: "aCountIsOfToday", Message: "A count says what is there now. Leave the day empty."}
}

func EnterHowMuchCarrier() Sentence {
	return Sentence{Code: "enterHowMuchCarrier", Message: "Enter how much carrier there is, in mL."}
}

func EnterAPerCent() Sentence {
	return Sentence{Code: "enterAPerCent", Message: "Enter a per cent from 0 to 100."}
}

func EnterDropsPerML() Sentence {
	return Sentence{Code: "enterDropsPerML", Message: "Enter how many drops of the oil make a mL. Weigh 20 drops to find out."}
}

func EnterHowMuchIsWanted() Sentence {
	return Sentence{Code: "enterHowMuchIsWanted", Message: "Enter how much is wanted, in mL."}
}

func WantedIsNotStrongerThanThereIs() Sentence {
	return Sentence{Code: "wantedIsNotStrongerThanThereIs", Message: "What is wanted is weaker than what there is. Check both strengths."}
}

func TooLittleCarrierForThisStrength() Sentence {
	return Sentence{Code: "tooLittleCarrierForThisStrength", Message: "Too little carrier for this strength: not even one drop goes in."}
}

func NoneOrHalfAPerCentAtMost() Sentence {
	return Sentence{Code: "noneOrHalfAPerCentAtMost", Message: "In pregnancy, for children and for sensitive skin use none, or half a per cent at most."}
}

func AFaceTakesOnePerCentAtMost() Sentence {
	return Sentence{Code: "aFaceTakesOnePerCentAtMost", Message: "A face usually takes half to one per cent. Check the supplier’s sheet."}
}

func HeldDownByTheDermalMaximum() Sentence {
	return Sentence{Code: "heldDownByTheDermalMaximum", Message: "Fewer drops than the strength asks for: the oil’s dermal maximum holds them down."}
}

func OpenThePackFirst() Sentence {
	return Sentence{Code: "openThePackFirst", Message: "This pack is still sealed. Open it first; then its sticker can be printed."}
}

func SendAtMostEventsAtOnce(most any) Sentence {
	return Sentence{Code: "sendAtMostEventsAtOnce", Message: "Too much was sent at once. Send at most " + text(most) + " entries.", Values: map[string]string{"most": text(most)}}
}

func ThisIsNoEventOfTheRoom() Sentence {
	return Sentence{Code: "thisIsNoEventOfTheRoom", Message: "The room’s log has an entry that cannot be read. Reload the guide and go on."}
}

func EventsArrivedAfterLocking(n any) Sentence {
	return Sentence{Code: "eventsArrivedAfterLocking", Message: text(n) + " entries of the room guide arrived after this record was locked.", Values: map[string]string{"n": text(n)}}
}

func ProductAtMinute(product, minute any) Sentence {
	return Sentence{Code: "productAtMinute", Message: text(product) + " at minute " + text(minute), Values: map[string]string{"product": text(product), "minute": text(minute)}}
}

func NoteLighterHere(day any) Sentence {
	return Sentence{Code: "noteLighterHere", Message: "Less pressure here: it was tender on " + text(day) + ".", Values: map[string]string{"day": text(day)}}
}

func NoteAskHere(day any) Sentence {
	return Sentence{Code: "noteAskHere", Message: "Ask first, and skip unless the client says it is fine: tender twice, last on " + text(day) + ".", Values: map[string]string{"day": text(day)}}
}

func NoteLeaveStep(day any) Sentence {
	return Sentence{Code: "noteLeaveStep", Message: "Skip this: skipped more than once, last on " + text(day) + ".", Values: map[string]string{"day": text(day)}}
}

func NoteLongerDose(day any) Sentence {
	return Sentence{Code: "noteLongerDose", Message: "More of this, within its range: stayed with more than once, last on " + text(day) + ".", Values: map[string]string{"day": text(day)}}
}

func ThisRecordIsNotSigned() Sentence {
	return Sentence{Code: "thisRecordIsNotSigned", Message: "This record is not signed yet, or was locked before signatures were kept."}
}

func ChooseWhatWasSeen() Sentence {
	return Sentence{Code: "chooseWhatWasSeen", Message: "Choose what was noticed."}
}

func EnterWhoNoticedIt() Sentence {
	return Sentence{Code: "enterWhoNoticedIt", Message: "Enter who noticed it, such as the client."}
}

func ChooseHowItIsNow() Sentence {
	return Sentence{Code: "chooseHowItIsNow", Message: "Choose how the skin is now."}
}

func ChooseAGrade() Sentence {
	return Sentence{Code: "chooseAGrade", Message: "Choose a grade."}
}

func NobodyWasReachedSoStaysOpen() Sentence {
	return Sentence{Code: "nobodyWasReachedSoStaysOpen", Message: "The client was not reached, so the reaction stays open. Leave out the doctor."}
}

func SayWhyItWasNoReaction() Sentence {
	return Sentence{Code: "sayWhyItWasNoReaction", Message: "Enter why this was recorded by mistake. The products are allowed again."}
}

func SetAsideAfterReaction(day any) Sentence {
	return Sentence{Code: "setAsideAfterReaction", Message: "Set aside after a reaction on " + text(day), Values: map[string]string{"day": text(day)}}
}

func ChooseWhatHappened() Sentence {
	return Sentence{Code: "chooseWhatHappened", Message: "Choose what happened."}
}

func EnterWhatHappened() Sentence {
	return Sentence{Code: "enterWhatHappened", Message: "Enter what happened in a sentence."}
}

func ThisRecordNeedsNoSecondSignature() Sentence {
	return Sentence{Code: "thisRecordNeedsNoSecondSignature", Message: "This record needs no second signature."}
}

func SomebodyElseSignsTheSecondTime() Sentence {
	return Sentence{Code: "somebodyElseSignsTheSecondTime", Message: "You signed this record yourself. Ask a colleague for the second signature."}
}

func EnterWhatIsRight() Sentence {
	return Sentence{Code: "enterWhatIsRight", Message: "Enter what is right."}
}

func ChooseWhatIsCorrected() Sentence {
	return Sentence{Code: "chooseWhatIsCorrected", Message: "Choose what is corrected."}
}

func ChooseWhatIsMeasured() Sentence {
	return Sentence{Code: "chooseWhatIsMeasured", Message: "Choose what is measured."}
}

func ChooseWhatItIsMeasuredWith() Sentence {
	return Sentence{Code: "chooseWhatItIsMeasuredWith", Message: "Choose what it is measured with."}
}

func ChooseASide() Sentence {
	return Sentence{Code: "chooseASide", Message: "Choose the side."}
}

func ChooseBeforeOrAfter() Sentence {
	return Sentence{Code: "chooseBeforeOrAfter", Message: "Choose whether it is measured before or after the treatment."}
}

func ReadItTwice() Sentence {
	return Sentence{Code: "readItTwice", Message: "Take two readings. Let go of the landmark and find it again for the second one."}
}

func EnterAReadingBetween(least, most any) Sentence {
	return Sentence{Code: "enterAReadingBetween", Message: "Enter a reading between " + text(least) + " and " + text(most) + ".", Values: map[string]string{"least": text(least), "most": text(most)}}
}

func SayWhyItIsTakenOut() Sentence {
	return Sentence{Code: "sayWhyItIsTakenOut", Message: "Enter why these readings do not count."}
}

func ThePhotoIsTooLarge() Sentence {
	return Sentence{Code: "thePhotoIsTooLarge", Message: "This photo is too large. Send one of up to 3000 pixels a side and 6 MB."}
}

func ThisIsNoPhoto() Sentence {
	return Sentence{Code: "thisIsNoPhoto", Message: "This file is not a photo. Choose a JPEG or PNG picture."}
}

func MarkBothPupils() Sentence {
	return Sentence{Code: "markBothPupils", Message: "Mark both pupils on the photo, the left one in the picture first."}
}

func MarkTheGreyPatch() Sentence {
	return Sentence{Code: "markTheGreyPatch", Message: "Mark the grey patch on the photo."}
}

func MarkBothMouthCorners() Sentence {
	return Sentence{Code: "markBothMouthCorners", Message: "Mark both corners of the mouth, the left one in the picture first."}
}

func PhotosNeedTheirConsent() Sentence {
	return Sentence{Code: "photosNeedTheirConsent", Message: "The client has not agreed to photos. Ask them to read and sign the consent to photos first."}
}

func ACardFeeIsFrom0To20PerCent() Sentence {
	return Sentence{Code: "aCardFeeIsFrom0To20PerCent", Message: "A card fee is from 0 to 20 per cent, such as 1.4."}
}

func EnterTheMarginAsANumber() Sentence {
	return Sentence{Code: "enterTheMarginAsANumber", Message: "Enter the margin as a number, such as 60 or 0.60."}
}

func ADepositHasAReceiptOfItsOwn() Sentence {
	return Sentence{Code: "aDepositHasAReceiptOfItsOwn", Message: "A deposit has a receipt of its own. Take it by itself."}
}

func SayWhyThereIsADiscount() Sentence {
	return Sentence{Code: "sayWhyThereIsADiscount", Message: "Say why there is a discount."}
}

func OneCardPaymentAReceipt() Sentence {
	return Sentence{Code: "oneCardPaymentAReceipt", Message: "A receipt takes one card payment. Take the rest another way."}
}

func SayWhoPaysLater() Sentence {
	return Sentence{Code: "sayWhoPaysLater", Message: "Choose the client who pays later."}
}

func NoDiscountOnAVoucher() Sentence {
	return Sentence{Code: "noDiscountOnAVoucher", Message: "Vouchers and deposits take no discount."}
}

func SayWhoseSeriesItIs() Sentence {
	return Sentence{Code: "sayWhoseSeriesItIs", Message: "Choose the client whose series it is."}
}

func SayHowManyVisits() Sentence {
	return Sentence{Code: "sayHowManyVisits", Message: "Say how many treatments the series has."}
}

func ChooseAProtocol() Sentence {
	return Sentence{Code: "chooseAProtocol", Message: "Choose a treatment."}
}

func ChooseAnExtra() Sentence {
	return Sentence{Code: "chooseAnExtra", Message: "Choose an add-on."}
}

func ADepositBelongsToAnAppointment() Sentence {
	return Sentence{Code: "aDepositBelongsToAnAppointment", Message: "A deposit belongs to an appointment. Open the appointment and take it there."}
}

func EnterAnAmountAbove0() Sentence {
	return Sentence{Code: "enterAnAmountAbove0", Message: "Enter an amount above 0."}
}

func APriceHoldsFromTodayOn() Sentence {
	return Sentence{Code: "aPriceHoldsFromTodayOn", Message: "A price holds from today or a later day. What was sold keeps its price."}
}

func SayWhatThePriceIsOf() Sentence {
	return Sentence{Code: "sayWhatThePriceIsOf", Message: "Say what the price is of: one treatment, product or add-on."}
}

func TheAppointmentIsAnotherClients() Sentence {
	return Sentence{Code: "theAppointmentIsAnotherClients", Message: "The appointment is another client’s. Choose the client who has it."}
}

func NoVoucherHasThisNumber() Sentence {
	return Sentence{Code: "noVoucherHasThisNumber", Message: "No voucher has this number. Check it against the paper."}
}

func ThisVoucherIsNamedTwice() Sentence {
	return Sentence{Code: "thisVoucherIsNamedTwice", Message: "This voucher is named twice."}
}

func NothingIsLeftOfThisVoucher() Sentence {
	return Sentence{Code: "nothingIsLeftOfThisVoucher", Message: "Nothing is left of this voucher."}
}

func TheVoucherEndedOn(day any) Sentence {
	return Sentence{Code: "theVoucherEndedOn", Message: "The voucher was good until " + text(day) + ". Say why it is taken all the same.", Values: map[string]string{"day": text(day)}}
}

func ThisDepositWasUsed() Sentence {
	return Sentence{Code: "thisDepositWasUsed", Message: "This deposit was used or given back already."}
}

func TheDepositIsOfAnotherAppointment() Sentence {
	return Sentence{Code: "theDepositIsOfAnotherAppointment", Message: "The deposit is of another appointment."}
}

func ADiscountIsFrom0To100() Sentence {
	return Sentence{Code: "aDiscountIsFrom0To100", Message: "A discount is from 0 to 100 %."}
}

func TheDiscountIsMoreThanTheLines() Sentence {
	return Sentence{Code: "theDiscountIsMoreThanTheLines", Message: "The discount is more than what it comes off."}
}

func YouMayTakeOffUpTo(percent any) Sentence {
	return Sentence{Code: "youMayTakeOffUpTo", Message: "You may take off up to " + text(percent) + " %. Ask the owner for more.", Values: map[string]string{"percent": text(percent)}}
}

func ThereIsNoPriceYet() Sentence {
	return Sentence{Code: "thereIsNoPriceYet", Message: "There is no price for this yet. Set one in the price list."}
}

func SayWhoseTipItIs() Sentence {
	return Sentence{Code: "sayWhoseTipItIs", Message: "Say whose tip it is."}
}

func OnlySoMuchIsLeftOfTheVoucher(left any) Sentence {
	return Sentence{Code: "onlySoMuchIsLeftOfTheVoucher", Message: "Only " + text(left) + " is left of the voucher.", Values: map[string]string{"left": text(left)}}
}

func OneWayTakesTheRest() Sentence {
	return Sentence{Code: "oneWayTakesTheRest", Message: "Only one way can take the rest. Enter an amount for this one."}
}

func LessIsGivenThanIsDue(due any) Sentence {
	return Sentence{Code: "lessIsGivenThanIsDue", Message: "Less is given than is due: " + text(due) + ".", Values: map[string]string{"due": text(due)}}
}

func SoMuchIsStillDue(rest any) Sentence {
	return Sentence{Code: "soMuchIsStillDue", Message: text(rest) + " is still due. Choose how it is paid.", Values: map[string]string{"rest": text(rest)}}
}

func TheCardWasAskedForAnotherAmount(amount any) Sentence {
	return Sentence{Code: "theCardWasAskedForAnotherAmount", Message: "The terminal was asked for " + text(amount) + ". Take that amount by card, or cancel the card payment first.", Values: map[string]string{"amount": text(amount)}}
}

func ThisAppointmentWasPaidWith(number any) Sentence {
	return Sentence{Code: "thisAppointmentWasPaidWith", Message: "This appointment was paid with receipt " + text(number) + ".", Values: map[string]string{"number": text(number)}}
}

func CancelledAtTheDesk() Sentence {
	return Sentence{Code: "cancelledAtTheDesk", Message: "Cancelled at the desk"}
}

func SayWhyItIsGivenBack() Sentence {
	return Sentence{Code: "sayWhyItIsGivenBack", Message: "Say why it is given back."}
}

func OnlyLinesOfASaleAreGivenBack() Sentence {
	return Sentence{Code: "onlyLinesOfASaleAreGivenBack", Message: "Only lines of a sale are given back."}
}

func ASeriesIsGivenBackFromItsStrip() Sentence {
	return Sentence{Code: "aSeriesIsGivenBackFromItsStrip", Message: "A series or voucher is not given back as a line. Give a series back on the client’s page."}
}

func ThisLineWasGivenBack(name any) Sentence {
	return Sentence{Code: "thisLineWasGivenBack", Message: text(name) + " was given back already.", Values: map[string]string{"name": text(name)}}
}

func ChooseWhatIsGivenBack() Sentence {
	return Sentence{Code: "chooseWhatIsGivenBack", Message: "Choose what is given back."}
}

func NoMoreThanIsOwed(left any) Sentence {
	return Sentence{Code: "noMoreThanIsOwed", Message: "Enter an amount up to what is owed: " + text(left) + ".", Values: map[string]string{"left": text(left)}}
}

func NothingIsLeftOfThisSeries() Sentence {
	return Sentence{Code: "nothingIsLeftOfThisSeries", Message: "Nothing is left of this series."}
}

func ChooseTheClientItGoesTo() Sentence {
	return Sentence{Code: "chooseTheClientItGoesTo", Message: "Choose the client it goes to."}
}

func ASeriesRestsFromADayToALaterOne() Sentence {
	return Sentence{Code: "aSeriesRestsFromADayToALaterOne", Message: "A series rests from a day to a later one."}
}

func TheSeriesIsStillGood() Sentence {
	return Sentence{Code: "theSeriesIsStillGood", Message: "The series is still good. It can lapse after its last day."}
}

func TheVoucherIsStillGood() Sentence {
	return Sentence{Code: "theVoucherIsStillGood", Message: "The voucher is still good. It can lapse after its last day."}
}

func ThisAppointmentWasNotMissed() Sentence {
	return Sentence{Code: "thisAppointmentWasNotMissed", Message: "This appointment was not missed or cancelled late."}
}

func SayWhyTheFeeIsWaived() Sentence {
	return Sentence{Code: "sayWhyTheFeeIsWaived", Message: "Say why the fee is waived."}
}

func SayHowTheDifferenceCameAbout() Sentence {
	return Sentence{Code: "sayHowTheDifferenceCameAbout", Message: "The till differs from what is expected. Say how, or that nobody knows."}
}

func TheDayWasClosed() Sentence {
	return Sentence{Code: "theDayWasClosed", Message: "This day was closed. What comes in now is dated on the next day."}
}

func CloseTheEarlierDayFirst(day any) Sentence {
	return Sentence{Code: "closeTheEarlierDayFirst", Message: "Days close in order. Close " + text(day) + " first.", Values: map[string]string{"day": text(day)}}
}

func CountCoinsAndNotes() Sentence {
	return Sentence{Code: "countCoinsAndNotes", Message: "Enter how many there are of each coin and note."}
}

func ACardPaymentIsStillOpen() Sentence {
	return Sentence{Code: "aCardPaymentIsStillOpen", Message: "A card payment is still open. Ask the terminal what became of it first."}
}

func NoTipsAreOwed() Sentence {
	return Sentence{Code: "noTipsAreOwed", Message: "No tips are owed to this practitioner."}
}

func WriteTheInitials() Sentence {
	return Sentence{Code: "writeTheInitials", Message: "Write the initials of who was given the money."}
}

func NameTheSlip() Sentence {
	return Sentence{Code: "nameTheSlip", Message: "Say what was paid for, and the number of its slip."}
}

func TheFeeIsMoreThanThePayment() Sentence {
	return Sentence{Code: "theFeeIsMoreThanThePayment", Message: "The fee is more than the payment."}
}

func EnterAMonthSuchAs() Sentence {
	return Sentence{Code: "enterAMonthSuchAs", Message: "Enter a month such as 2026-11."}
}

func SeriesOfVisits(protocol, visits any) Sentence {
	return Sentence{Code: "seriesOfVisits", Message: text(protocol) + ", series of " + text(visits), Values: map[string]string{"protocol": text(protocol), "visits": text(visits)}}
}

func VoucherForTreatments(visits, protocol any) Sentence {
	return Sentence{Code: "voucherForTreatments", Message: "Voucher for " + text(visits) + " × " + text(protocol), Values: map[string]string{"visits": text(visits), "protocol": text(protocol)}}
}

func AmountVoucher() Sentence {
	return Sentence{Code: "amountVoucher", Message: "Voucher"}
}

func DepositLine() Sentence {
	return Sentence{Code: "depositLine", Message: "Deposit for an appointment"}
}

func FeeLine() Sentence {
	return Sentence{Code: "feeLine", Message: "Fee for a missed appointment"}
}

func WhatIsLeftOf(name any) Sentence {
	return Sentence{Code: "whatIsLeftOf", Message: "What is left of " + text(name), Values: map[string]string{"name": text(name)}}
}

func OnlySoManyPacksAreForSale(packs any) Sentence {
	return Sentence{Code: "onlySoManyPacksAreForSale", Message: "Only " + text(packs) + " sealed packs stand on the retail side.", Values: map[string]string{"packs": text(packs)}}
}

func TheCardWasDeclined() Sentence {
	return Sentence{Code: "theCardWasDeclined", Message: "The card company declined it"}
}

func TheTerminalNeverHeardOfIt() Sentence {
	return Sentence{Code: "theTerminalNeverHeardOfIt", Message: "The terminal never heard of it"}
}

func MoneyIsToldInItsOrder() Sentence {
	return Sentence{Code: "moneyIsToldInItsOrder", Message: "What happened to the money is told in its order. This is before the entry above it."}
}

func ACommissionIsFrom0To100() Sentence {
	return Sentence{Code: "aCommissionIsFrom0To100", Message: "A commission is from 0 to 100 %, with at most two decimals."}
}

func TheMonthIsNotOver() Sentence {
	return Sentence{Code: "theMonthIsNotOver", Message: "The month is not over yet. Post its commissions when it is."}
}

func ACardPaymentOfThisAppointmentIsOpen() Sentence {
	return Sentence{Code: "aCardPaymentOfThisAppointmentIsOpen", Message: "A card payment of this appointment is still open. Open the appointment’s payment and ask the terminal first."}
}

func PartOfPackage(qty, name, package_ any) Sentence {
	return Sentence{Code: "partOfPackage", Message: text(qty) + " × " + text(name) + " (" + text(package_) + ")", Values: map[string]string{"qty": text(qty), "name": text(name), "package": text(package_)}}
}

func NameThePackage() Sentence {
	return Sentence{Code: "nameThePackage", Message: "Give the package a name."}
}

func ChooseAPackage() Sentence {
	return Sentence{Code: "chooseAPackage", Message: "Choose a package that is sold now."}
}

func ATreatmentVoucherPaysForAnAppointment() Sentence {
	return Sentence{Code: "aTreatmentVoucherPaysForAnAppointment", Message: "A voucher for treatments pays for an appointment. Open the appointment’s payment and enter the number there."}
}

func TheVoucherCountsForMoreThanIsDue(counts any) Sentence {
	return Sentence{Code: "theVoucherCountsForMoreThanIsDue", Message: "This voucher’s treatment counts as " + text(counts) + ", and less than that is due. Add something to the sale, or keep the voucher for another day.", Values: map[string]string{"counts": text(counts)}}
}

func TheTerminalDidNotGiveItBack(reason any) Sentence {
	return Sentence{Code: "theTerminalDidNotGiveItBack", Message: "The card terminal did not give the money back. " + text(reason) + ". Choose another way, or try again.", Values: map[string]string{"reason": text(reason)}}
}

func SubjectSeriesEnds(studio any) Sentence {
	return Sentence{Code: "subjectSeriesEnds", Message: "Your series at " + text(studio) + " ends soon", Values: map[string]string{"studio": text(studio)}}
}

func TellSeriesEnds(name, left, until, studio any) Sentence {
	return Sentence{Code: "tellSeriesEnds", Message: "Dear " + text(name) + ",\n\n" + text(left) + " " + count(left, "treatment", "treatments") + " of your series " + count(left, "is", "are") + " left, good until " + text(until) + ". Call " + text(studio) + " to book " + count(left, "it", "them") + " in good time.", Values: map[string]string{"name": text(name), "left": text(left), "until": text(until), "studio": text(studio)}}
}

func ChooseTheReceiptThatIsOwed() Sentence {
	return Sentence{Code: "chooseTheReceiptThatIsOwed", Message: "Choose the receipt of which something is owed."}
}

func NothingIsOwedOfThisReceipt() Sentence {
	return Sentence{Code: "nothingIsOwedOfThisReceipt", Message: "Nothing is owed of this receipt any more."}
}

func OwedOfReceipt(number any) Sentence {
	return Sentence{Code: "owedOfReceipt", Message: "Still owed of receipt " + text(number), Values: map[string]string{"number": text(number)}}
}

func APaidDebtIsNotGivenBack() Sentence {
	return Sentence{Code: "aPaidDebtIsNotGivenBack", Message: "Money that paid what was owed is not given back here. Give the lines of the first receipt back."}
}

func WhatIsOwedIsPaidNow() Sentence {
	return Sentence{Code: "whatIsOwedIsPaidNow", Message: "What is owed already cannot be left owed again. Choose another way to pay."}
}

func MissedTreatmentsDoNotCount() Sentence {
	return Sentence{Code: "missedTreatmentsDoNotCount", Message: "By the studio’s settings a missed treatment of a series does not count as given."}
}

func AnAccountNumberHasUpTo(most any) Sentence {
	return Sentence{Code: "anAccountNumberHasUpTo", Message: "An account number has up to " + text(most) + " letters and digits.", Values: map[string]string{"most": text(most)}}
}

const PaperDisclaimer = "Cosmetic massage is not medical treatment. Local regulations, the practitioner’s licence and the client’s doctor take priority."

const PaperLetter = "A question about a planned facial massage"

const PaperSetUp = "Set-up list"

func PaperEverythingStudioKeepsAboutYouOnFormat(studio, format any) string {
	return "Everything " + text(studio) + " keeps about you, on " + text(format) + "."
}

const PaperDateOfBirth = "Date of birth"

const PaperPhone = "Phone"

const PaperSkin = "Skin"

const PaperNotes = "Notes"

const PaperConsultations = "Consultations"

const PaperNotReviewedYet = "not reviewed yet"

const PaperSkinTypeNotAsked = "skin type not asked"

func PaperDayRulesOfPackVersion(day, packVersion any) string {
	return text(day) + ", rules of " + text(packVersion)
}

const PaperPreTreatmentChecks = "Pre-treatment checks"

const PaperPatchTests = "Patch tests"

const PaperNoReadingYet = "no reading yet"

func PaperAfterHoursHoursGrade(hours, grade any) string {
	return "after " + text(hours) + " hours " + text(grade)
}

func PaperNameLotLotPlaceRead(name, lot, place, read any) string {
	return text(name) + ", lot " + text(lot) + ", " + text(place) + ": " + text(read)
}

const PaperLettersToADoctor = "Letters to a doctor"

const PaperConsents = "Consents"

func PaperWithdrawnFormat(format any) string {
	return "; withdrawn " + text(format)
}

func PaperKindTextVersionSignedBySignerState(kind, version, signer, state, body any) string {
	return text(kind) + ", text " + text(version) + ", signed by " + text(signer) + text(state) + "\n" + text(body)
}

const PaperAppointments = "Appointments"

func PaperDoctorsAnswerAnswer(answer any) string {
	return "Doctor’s answer: " + text(answer)
}

func PaperValidToUntil(until any) string {
	return ", valid to " + text(until)
}

func PaperAnswerAsCameNScannedInJSON(n any) string {
	return "The answer as it came: " + text(n) + " scanned, in the JSON file"
}

func PaperProtocolnameWithPractitionerNameState(protocolName, practitionerName, state any) string {
	return text(protocolName) + ", with " + text(practitionerName) + " (" + text(state) + ")"
}

func PaperOverrideOfRulesReason(rules, reason any) string {
	return "Override of " + text(rules) + ": " + text(reason)
}

func PaperNameUsedUnitLotLots(name, used, unit, lots any) string {
	return text(name) + " " + text(used) + " " + text(unit) + ", lot " + text(lots)
}

const PaperNone = "None."

const PaperNoToEveryQuestion = "No to every question."

const PaperMedicines = "Medicines"

const PaperAllergicTo = "Allergic to"

const PaperConcerns = "Concerns"

const PaperHomeProducts = "Home products"

const PaperSleep = "Sleep"

const PaperBedtime = "Bedtime"

func PaperBornBirthDate(birthDate any) string {
	return ", born " + text(birthDate)
}

const PaperClient = "Client"

const PaperCosmeticMassageFaceNeckShoulders = "a cosmetic massage of face, neck and shoulders"

const PaperPlanned = "Planned"

const PaperWhatTheClientToldUs = "What the client told us"

const PaperWhyWeAsk = "Why we ask"

const PaperQuestion = "Question"

const PaperAnswer = "Answer"

const PaperTheTreatmentCanBeGivenAsPlanned = "The treatment can be given as planned."

const PaperTreatmentCanGivenWithTheseLimits = "The treatment can be given with these limits:"

const PaperTheTreatmentShouldNotBeGiven = "The treatment should not be given."

const PaperValidUntil = "Valid until"

const PaperDateNameAndSignature = "Date, name and signature"

const PaperFromTheConsultation = "From the consultation"

const PaperNoCurrentConsultation = "No current consultation."

const PaperNoToEveryQuestion2 = "No to every question"

const PaperLastPreTreatmentCheck = "Last pre-treatment check"

const PaperNoCheckYet = "No check yet."

func PaperRulesOfPackVersion(packVersion any) string {
	return "Rules of " + text(packVersion) + "."
}

func PaperPressureLimitPressure(pressure any) string {
	return "pressure limit " + text(pressure)
}

func PaperStrokesThatV(v any) string {
	return "strokes that " + text(v)
}

func PaperVTool(v any) string {
	return text(v) + " (tool)"
}

func PaperProductsWithV(v any) string {
	return "products with " + text(v)
}

func PaperProductsWithAllergy(allergy any) string {
	return "products with " + text(allergy)
}

func PaperDoNotUseWhat(what any) string {
	return "do not use: " + text(what)
}

func PaperUntilUntil(until any) string {
	return "until " + text(until)
}

const PaperAllowedByTheDoctorsLetter = "allowed by the doctor’s letter"

func PaperTreatmentMinSecondsHandsOn(treatment, seconds any) string {
	return text(treatment) + " min, " + text(seconds) + " hands-on"
}

func PaperRoomReadyAgainAfterResetMin(reset any) string {
	return "room ready again after " + text(reset) + " min"
}

func PaperAtLeastAtLeast(atLeast any) string {
	return " (at least " + text(atLeast) + ")"
}

func PaperForSkinTypesSkin(skinTypes any) string {
	return "for " + text(skinTypes) + " skin"
}

func PaperRoundTimesTimesOver(times any) string {
	return "Round, " + text(times) + " times over:"
}

func PaperClientClient(client any) string {
	return "Client: " + text(client) + "."
}

func PaperSetsSetsOf(sets any) string {
	return text(sets) + " sets of "
}

func PaperSetsPlannedTimes(sets, planned any) string {
	return text(sets) + text(planned) + " times"
}

func PaperThenReverseInReverse(reverse any) string {
	return ", then " + text(reverse) + " in reverse"
}

func PaperPlannedBreathsOfInInOutOut(planned, in, out any) string {
	return text(planned) + " breaths of " + text(in) + " in, " + text(out) + " out"
}

func PaperPulsesPumpsOnEachOutBreath(pulses any) string {
	return ", " + text(pulses) + " pumps on each out-breath"
}

func PaperPlacesPointsSecondsSPlannedTimesRound(places, seconds, planned any) string {
	return text(places) + " points of " + text(seconds) + " s, " + text(planned) + " times round"
}

const PaperEachWay = " each way"

func PaperUntilSignAboutPlannedS(sign, planned any) string {
	return "until " + text(sign) + ", about " + text(planned) + " s"
}

func PaperByFeelAboutPlannedS(planned any) string {
	return "by feel, about " + text(planned) + " s"
}

func PaperNotStatedPlannedAsPlannedS(planned any) string {
	return "not stated, planned as " + text(planned) + " s"
}

const PaperProtocolDefault = "protocol default"

const PaperFragileLayOnATowel = " (fragile: lay on a towel)"

const PaperABowl = "A bowl"

const PaperAFreshTowel = "A fresh towel"

const PaperFreshTowels = "fresh towels"

const PaperAPairOfGloves = "A pair of gloves"

const PaperPairsOfGloves = "pairs of gloves"

const PaperTissues = "Tissues"

const PaperAGlassOfWater = "A glass of water"

const PaperHandsWashedNailsShortRingsOff = "Hands washed, nails short, rings off"

func PaperPageOfPages(page, pages any) string {
	return text(page) + " of " + text(pages)
}

func PaperCalendarAppointment(studio any) string {
	return "Appointment, " + text(studio)
}

func PaperCalendarInitials(initials, minutes any) string {
	return text(initials) + " " + text(minutes) + " min"
}

func PaperCalendarShift(studio any) string {
	return "Shift, " + text(studio)
}

const PaperSeries = "Treatment series"

func PaperVisitsOfSeries(n, state any) string {
	return text(n) + " " + count(n, "visit", "visits") + ", " + text(state)
}

const PaperEndReview = "End review"

const PaperHomeCare = "Home care"

func PaperWaitingSince(day any) string {
	return "On the waiting list since " + text(day)
}

func PaperPlannedOn(what any) string {
	return "Planned elsewhere: " + text(what)
}

const PaperFromAPicture = " (from a picture)"

func PaperPlannedCounts(planned, seconds any) string {
	return text(planned) + " counts of " + text(seconds) + " s"
}

const PaperAftercare = "Aftercare"

const PaperIfWanted = ", if wanted"

const PaperHandDrop = "1 drop"

func PaperHandDrops(n any) string {
	return text(n) + " drops"
}

func PaperHandML(n any) string {
	return text(n) + " mL"
}

func PaperHandAbout(amount any) string {
	return "about " + text(amount)
}

func PaperHandPump(n any) string {
	return text(n) + " pump"
}

func PaperHandPumps(n any) string {
	return text(n) + " pumps"
}

func PaperHandPea(n any) string {
	return "pea " + text(n) + " g"
}

func PaperHandHazelnut(n any) string {
	return "hazelnut " + text(n) + " g"
}

func PaperHandGrams(n any) string {
	return text(n) + " g"
}

func PaperHandFingertip(n any) string {
	return text(n) + " fingertip"
}

func PaperHandFingertips(n any) string {
	return text(n) + " fingertips"
}

const PaperHandThen = ", then "

func PaperInPortions(total, count_, portions any) string {
	return text(total) + ", in " + text(count_) + " portions: " + text(portions)
}

func PaperSmallPrintML(ml any) string {
	return " (" + text(ml) + " mL)"
}

func PaperSmallPrintG(g any) string {
	return " (" + text(g) + " g)"
}

func PaperNameAmount(name, amount any) string {
	return text(name) + ": " + text(amount)
}

const PaperFigures = "The strokes and how they are drawn"

const PaperHowStrokesAreDrawn = "How the strokes are drawn"

func PaperWhyCore(concern any) string {
	return "A core stroke for " + text(concern) + "."
}

func PaperWhyServes(concern any) string {
	return "Works the place itself, for " + text(concern) + "."
}

func PaperWhyBeside(concern any) string {
	return "Works next to it, for " + text(concern) + "."
}

func PaperWhyTool(concern any) string {
	return "A tool does this well, for " + text(concern) + "."
}

const PaperWhyOnTheWay = "On the way: neck and shoulders come first."

const PaperWhyArrive = "Big, slow strokes while the hands arrive."

const PaperWhyCalm = "Calm strokes before the close."

const PaperWhyHome = "Carries down the neck what was drained from the face."

const PaperWhyExercise = "An exercise, as you asked."

const PaperWhySettle = "Settles the client and warms the hands."

const PaperWhyLook = "Looks at the skin before it is touched."

const PaperWhyTender = "Finds the tender spots before they are worked."

const PaperWhyCleanse = "Cleanses the skin before anything is worked in."

const PaperWhyTakeOff = "Takes off what should not stay on the skin."

const PaperWhyMist = "Mists dehydrated skin before cold."

const PaperWhyApply = "Slip for the hands, as much as the area needs."

const PaperWhyOpen = "Opens the way before anything drains."

const PaperWhyWash = "The hands have been in the hair."

const PaperWhyCompare = "Shows the client both sides together."

const PaperWhyClose = "Drains down to the collarbone before the end."

const PaperWhyMask = "From 30 minutes on there is time for a mask."

const PaperWhyFinish = "Protects the skin afterwards."

const PaperWhyWake = "Brings the client up slowly."

const PaperWhyTopUp = "Slip would run out here."

const PaperWhyWhole = "Part of a treatment of the whole face."

const PaperWhyFill = "Rounds the treatment off."

func PaperWhyAgain(concern any) string {
	return "A second round, because most of the time is for " + text(concern) + "."
}

const PaperWhyBlot = "Skin must be dry for a grip."

const PaperWhyAdded = "Added to keep the plan in order."

func PaperOrderNumber(number any) string {
	return "Order " + text(number)
}

func PaperToSupplier(supplier any) string {
	return "To: " + text(supplier)
}

func PaperOrderedOn(day any) string {
	return "Ordered on " + text(day)
}

func PaperNeededBy(day any) string {
	return "Needed by " + text(day)
}

const PaperArticle = "Article"

const PaperProduct = "Product"

const PaperPacks = "Packs"

const PaperPackSize = "Pack"

const PaperPackPrice = "Pack price"

const PaperTotal = "Total"

const PaperSum = "Sum"

func PaperMadeOnBy(day, by any) string {
	return "Made on " + text(day) + " by " + text(by)
}

func PaperGoodUntil(day any) string {
	return "Use by " + text(day)
}

func PaperAmountOf(amount, unit any) string {
	return text(amount) + " " + text(unit)
}

func PaperIngredientsAbout(list any) string {
	return "Ingredients (order approximate): " + text(list)
}

func PaperContains(list any) string {
	return "Contains: " + text(list)
}

func PaperForUseInThisStudioOnly(studio any) string {
	return text(studio) + ". For use in this studio only."
}

const PaperRecallList = "Recall: clients reached"

func PaperLotOfProduct(lot, product, left, unit any) string {
	return "Lot " + text(lot) + " of " + text(product) + "; " + text(left) + " " + text(unit) + " left"
}

func PaperBatchOfProduct(lot, product, left, unit any) string {
	return "Batch " + text(lot) + " of " + text(product) + ", made with a recalled lot; " + text(left) + " " + text(unit) + " left"
}

const PaperDay = "Date"

const PaperLot = "Lot"

const PaperHow = "How"

const PaperAmount = "Amount"

const PaperBy = "By"

const PaperLikely = "(likely)"

func PaperClientNumber(n any) string {
	return "Client " + text(n)
}

const PaperNobodyWasReached = "These lots reached nobody."

const PaperToCall = "To call"

const PaperSetUpOfTheDay = "Set-up for today"

const PaperNothingToLayOut = "Nothing to lay out."

func PaperTreatmentAt(at, client, protocol, room any) string {
	return text(at) + "  " + text(client) + ", " + text(protocol) + ", " + text(room)
}

const PaperRecallLetter = "Letter after a recall"

func PaperDearClient(name any) string {
	return "Dear " + text(name) + ","
}

const PaperWeUsedARecalledLot = "The supplier has recalled a product that was used at your appointment:"

func PaperOnDayLot(day, product, lot any) string {
	return text(day) + ": " + text(product) + ", lot " + text(lot)
}

func PaperTheSupplierSays(reason any) string {
	return "The notice says: " + text(reason) + "."
}

const PaperWhatToDoAfterARecall = "We do not use this lot any more. If you notice anything about your skin that worries you, please ask a doctor and show this letter. We are glad to answer your questions; please call us."

func PaperLotAndPack(lot, number any) string {
	return "Lot " + text(lot) + ", pack " + text(number)
}

func PaperOpenedOn(day any) string {
	return "Opened " + text(day)
}

const PaperTesterSpatulaOnly = "Tester: spatula only, no fingers"

const PaperRecordOfATreatment = "Record of a treatment"

func PaperTreatmentBy(protocol, practitioner, at any) string {
	return text(protocol) + ", " + text(practitioner) + ", " + text(at)
}

const PaperUsed = "Used"

const PaperSkipped = "Skipped"

func PaperAddedOn(at, author any) string {
	return "Added " + text(at) + ", " + text(author)
}

func PaperSignedBy(name, at any) string {
	return "Signed by " + text(name) + ", " + text(at)
}

const PaperInTheRoom = "In the room"

func PaperRealOfPlanned(real, planned any) string {
	return text(real) + " of " + text(planned) + " min planned"
}

func PaperPauses(n, time any) string {
	return "Pauses: " + text(n) + ", " + text(time) + " min in all"
}

func PaperRefitBy(n any) string {
	return "Fitted by " + text(n) + " min"
}

func PaperStayedWith(name, n any) string {
	return text(name) + ": stayed +" + text(n)
}

func PaperMarkAt(mark, n any) string {
	return text(mark) + ", minute " + text(n)
}

const PaperReaction = "Reaction"

func PaperReactionLine(kind, grade, at any) string {
	return text(kind) + ", grade " + text(grade) + ", noticed " + text(at)
}

func PaperIncident(kind, at any) string {
	return text(kind) + ", " + text(at)
}

func PaperCorrected(field, was, right any) string {
	return text(field) + ": " + text(was) + " → " + text(right)
}

const PaperSecondSignatureMissing = "Second signature missing"

const PaperReactionReport = "Report of a reaction"

const PaperReactionNoDiagnosis = "What was noticed at the studio. It is not a diagnosis."

const PaperNoticed = "Noticed"

const PaperGrade = "Grade"

const PaperWhere = "Where"

const PaperWhatWasDone = "What was done"

const PaperSetAside = "set aside"

const PaperNotKnown = "not known"

func PaperAskedOn(at any) string {
	return "Follow-up, " + text(at)
}

func PaperClosedOn(at any) string {
	return "Closed, " + text(at)
}

const PaperTreatment = "Treatment"

const PaperClientSaid = "What the client said"

const PaperAdviceGiven = "Advice and home care given"

const PaperMeasured = "Measured"

func PaperMeasuredLine(name, moment, readings any) string {
	return text(name) + ", " + text(moment) + ": " + text(readings)
}

const PaperCheckedAtTheDoor = "Pre-treatment check"

const PaperToolsUsed = "Tools used"

func PaperReceiptNumber(number any) string {
	return "Receipt " + text(number)
}

func PaperCounterReceiptNumber(number any) string {
	return "Counter-receipt " + text(number)
}

func PaperTaxNumber(number any) string {
	return "Tax number " + text(number)
}

func PaperCounters(number any) string {
	return "Counters receipt " + text(number)
}

func PaperFor(name any) string {
	return "For " + text(name)
}

const PaperWhat = "What"

const PaperHowMany = "Number"

func PaperAmountIn(currency any) string {
	return "Amount, " + text(currency)
}

func PaperVoucherNumber(number any) string {
	return "Voucher " + text(number)
}

func PaperLess(off any) string {
	return "less " + text(off)
}

func PaperTipFor(name any) string {
	return "Tip for " + text(name)
}

func PaperTaxIn(name, rate, tax, net any) string {
	return text(name) + " " + text(rate) + " %: " + text(tax) + " on " + text(net)
}

func PaperPaidBy(way, amount any) string {
	return "Paid by " + text(way) + ": " + text(amount)
}

func PaperGivenAndChange(given, change any) string {
	return "Given " + text(given) + ", change " + text(change)
}

func PaperVoucherHasLeft(number, left any) string {
	return "Left on voucher " + text(number) + ": " + text(left)
}

func PaperDueOn(day any) string {
	return "To be paid by " + text(day)
}

func PaperRounded(amount any) string {
	return "Cash rounded by " + text(amount)
}

const PaperBringTheNumber = "Bring this number when you come. It is good for treatments and products of this studio and is not paid out in cash."

func PaperAccountsOf(month any) string {
	return "Accounts of " + text(month)
}

func PaperDayIsOpen(day any) string {
	return text(day) + " is not closed yet: these figures can still change."
}

const PaperAccount = "Account"

const PaperOpening = "Opening"

const PaperDebits = "Debits"

const PaperCredits = "Credits"

const PaperClosing = "Closing"

const PaperDebitsAboveZero = "Opening and closing: debit above zero, credit below."

const PaperTaken = "Taken"

const PaperEarned = "Earned, without tax"

const PaperStillOwed = "Still owed to clients"

const PaperCostOfGoods = "Cost of goods"

const PaperMargin = "Margin of closed records"

const PaperMarginPercent = "Margin, of net"

const PaperMarginMinute = "Margin a minute"

const PaperFees = "Fees"

const PaperTips = "Tips"

const PaperDifferences = "Till differences"

const PaperPaidAhead = "Paid ahead"

func PaperAsOf(day any) string {
	return "As of " + text(day)
}

const PaperGivenOn = "Given on"

const PaperToCome = "to come"

func PaperNotPaidYet(amount any) string {
	return "Not paid yet: " + text(amount)
}

func PaperAllSeriesBack(amount any) string {
	return "Giving all series back share by share would cost " + text(amount) + " today."
}

const PaperByProtocol = "By protocol"

const PaperByPractitioner = "By practitioner"

const PaperByRoom = "By room"

const PaperTreatmentsGiven = "Given"

const PaperNet = "Net"

func BriefNoSubstance(name any) string {
	return "no " + text(name)
}

func BriefInManyPlaces(text_, n any) string {
	return text(text_) + " (" + text(n) + " places)"
}

func BriefAtPlaces(text_, places any) string {
	return text(text_) + " (" + text(places) + ")"
}

func BriefZoneOnSide(side, name any) string {
	return text(side) + " " + text(name)
}

const BriefFirstVisit = "First treatment here"

func BriefNewSince(text_ any) string {
	return "New: " + text(text_)
}

func BriefGoneSince(text_ any) string {
	return "No longer: " + text(text_)
}

const BriefOtherProtocol = "Another protocol than last time"

func BriefConsultationRenewed(day any) string {
	return "Consultation renewed " + text(day)
}

func BriefAddedToRecord(author, body any) string {
	return text(author) + " added to the record: " + text(body)
}

func BriefPatchTestClear(name any) string {
	return "Patch test clear: " + text(name)
}

func BriefPatchTestReacted(name any) string {
	return "Patch test showed a reaction: " + text(name)
}

func BriefSignedByTyping(name any) string {
	return "Signed by typing the name " + text(name) + "."
}

const BriefReactionBlockedTitle = "Reaction after an earlier treatment"

const BriefReactionBlockedWhy = "This client had a severe reaction after a treatment with this product. It is not used on this client again."

const BriefReactionPatchTitle = "Patch test after a reaction"

const BriefReactionPatchWhy = "This client had a reaction after a treatment with this product. It is used again only after a patch test without a reaction."

const BriefReactionAskTitle = "Mild reaction after an earlier treatment"

const BriefReactionAskWhy = "This client had a mild reaction after a treatment with this product."

func BriefAskBeforeUsing(products any) string {
	return "Ask how the skin was after the last time before using " + text(products) + "."
}

func BriefMeasureChange(change, noise any) string {
	return text(change) + ", more than the measuring noise (" + text(noise) + ")"
}

func BriefMeasureNoChange(change, noise any) string {
	return "no change shown (" + text(change) + ", noise " + text(noise) + ")"
}

const BriefMeasureTooFew = "take more readings: the measuring noise is not known yet"

func BriefMeasureProvisional(text_, n any) string {
	return text(text_) + "; provisional, from " + text(n) + " repeats"
}

func BriefMeasureHoped(text_ any) string {
	return text(text_) + "; in the direction hoped for"
}

func BriefMeasureAgainst(text_ any) string {
	return text(text_) + "; against the direction hoped for"
}

func BriefMeasureSince(day, text_ any) string {
	return "Since " + text(day) + ": " + text(text_)
}

func BriefMeasureOnDay(day, text_ any) string {
	return "Before and after on " + text(day) + ": " + text(text_)
}

func BriefMeasureBaseline(n, text_ any) string {
	return "Against " + text(n) + " days before the first treatment: " + text(text_)
}

func BriefMeasureFewDays(n any) string {
	return text(n) + " of 3 days before the first treatment: too few to know how days differ"
}

const BriefMeasureByOther = "Taken by another person than the first time: not compared"

const BriefMeasureDrifts = "The second reading tends to differ from the first in one direction: find the landmark anew each time"

func BriefAsymmetryReal(index, difference, noise, side, extra any) string {
	return "Left and right differ by " + text(index) + " % (" + text(difference) + "), more than the measuring noise (" + text(noise) + "); the " + text(side) + " is the weaker side: " + text(extra) + " % more repetitions there"
}

func BriefAsymmetryNone(difference, noise any) string {
	return "No difference of left and right shown (" + text(difference) + ", noise " + text(noise) + ")"
}

const BriefAsymmetryTooFew = "Left against right: take more readings"

func BriefGradedLower(n, day any) string {
	return "Graded " + text(n) + " lower since " + text(day)
}

func BriefGradedHigher(n, day any) string {
	return "Graded " + text(n) + " higher since " + text(day)
}

func BriefGradedSame(day any) string {
	return "Graded the same as on " + text(day)
}

func BriefGradedNear(day, n any) string {
	return "No change shown since " + text(day) + " (" + text(n) + " of 10)"
}

func BriefClientsBeyondNoise(changed, of any) string {
	return text(changed) + " of " + text(of) + " clients beyond the noise"
}

func BriefClientsShare(changed, of, share, low, high any) string {
	return text(changed) + " of " + text(of) + " clients beyond the noise: " + text(share) + " %, 95 % interval " + text(low) + " to " + text(high) + " %"
}

func BriefClientsStopped(n any) string {
	return text(n) + " had only a first measurement. There was no control group."
}

func BriefNextLighterHere(about any) string {
	return "Less pressure here: " + text(about)
}

func BriefNextAskHere(about any) string {
	return "Ask first, or skip: " + text(about)
}

const BriefNextLighterAll = "Less pressure in all"

func BriefNextProductAgain(about any) string {
	return "Plan more " + text(about)
}

func BriefNextOtherForm(about any) string {
	return "Another form than " + text(about)
}

const BriefNextCalmer = "Calmer: no friction, tapping, cup or mitt"

func BriefNextLeaveStep(about any) string {
	return "Skip " + text(about)
}

func BriefNextLongerDose(about any) string {
	return "More of " + text(about)
}

const BriefNextBookLonger = "Book longer"

const BriefNextBookShorter = "Book shorter"

const BriefNextArrivesLate = "Comes late: say the time, or book the quarter hour after"

const BriefNextQuiet = "Quiet from the start"

func BriefNextMoreOnSide(about any) string {
	return "More on the " + text(about) + " side"
}

const BriefNextBaseline = "Measure before the first stroke next time, so that changes can be seen"

const BriefNextMeasureAgain = "Measure again next time"

const BriefNextPatchFirst = "Patch test first: a reaction is still open"

const BriefNextHomeLighter = "Give less home care"

func BriefBecauseTender(n any) string {
	return "Tender at minute " + text(n)
}

func BriefBecauseTenderOn(days any) string {
	return "Tender here on " + text(days)
}

func BriefBecauseLess(days any) string {
	return "Less pressure asked for on " + text(days)
}

func BriefBecauseAdded(n any) string {
	return "Added at minute " + text(n)
}

func BriefBecauseAddedOn(days any) string {
	return "Added on " + text(days)
}

func BriefBecauseRed(n, most any) string {
	return "Redness graded " + text(n) + "; this method expects " + text(most) + " at most"
}

func BriefBecauseSkipped(days any) string {
	return "Skipped on " + text(days)
}

func BriefBecauseStayed(days any) string {
	return "Stayed with on " + text(days)
}

func BriefBecauseTook(real, planned, day any) string {
	return text(real) + " of " + text(planned) + " planned on " + text(day)
}

func BriefBecauseLate(n, day any) string {
	return "Began " + text(n) + " min late on " + text(day)
}

func BriefBecauseQuiet(days any) string {
	return "Quiet asked for on " + text(days)
}

func BriefBecauseMeasured(n any) string {
	return "Last measured " + text(n) + " days ago"
}

func BriefForNextTime(day, text_ any) string {
	return "For next time, from " + text(day) + ": " + text(text_)
}

func BriefBecauseRedAtAll(n any) string {
	return "Redness graded " + text(n) + "; this method expects none"
}

const BriefBecauseNothingMeasured = "Nothing is measured yet"

const BriefBecauseAsymmetry = "The difference between the sides is beyond the noise of measuring"

func BriefBecauseReaction(n any) string {
	return "A reaction of grade " + text(n) + " is open"
}
