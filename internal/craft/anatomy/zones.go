package anatomy

// Count is the number of zones.
const Count = 67

// Zones lists every zone, from the hairline down. Ceilings are common practice
// of the trade; landmarks are drawn to the adult sizes of Farkas,
// Anthropometry of the Head and Face (from memory), see the tests.
var Zones = [Count]Zone{
	mid("forehead-centre", "Forehead centre", Upper, 4, at(0, 15.5, 0.6), poly(0, 17.4, 1.7, 17.3, 1.7, 13.8, 0.9, 13.6, 0, 13.7)),
	pair("forehead", "Forehead", Upper, 4, at(3.6, 15.2, -0.6), poly(1.7, 17.3, 4.2, 16.7, 5.6, 15.4, 5.5, 14.1, 4.2, 14.0, 1.8, 13.8)).with("frontalis"),
	pair("hairline", "Hairline", Upper, 3, at(4.0, 17.0, -1.6), poly(1.8, 18.5, 4.6, 17.9, 6.3, 16.2, 5.6, 15.4, 4.2, 16.7, 1.7, 17.3)).both(0, 18.6, 1.8, 18.5, 1.7, 17.3, 0, 17.4).with("end point of forehead lifts"),
	mid("glabella", "Between the brows", Upper, 4, at(0, 12.9, 0.9), poly(0, 13.7, 0.9, 13.6, 0.85, 12.4, 0.8, 12.2, 0, 12.1)).with("procerus, corrugator"),
	pair("brow", "Brow", Upper, 3, at(3.6, 13.4, 0.1), poly(1.9, 13.8, 4.1, 14.0, 5.2, 13.3, 5.0, 12.6, 3.6, 13.0, 1.9, 12.7)).with("pinch and lift"),
	pair("brow-base", "Brow base", Upper, 3, at(1.4, 12.9, 0.8), poly(0.9, 13.6, 1.9, 13.8, 1.9, 12.7, 0.85, 12.4)).with("inner end of the brow, a classic pressure point"),
	pair("temple", "Temple", Upper, 3, at(6.1, 13.2, -3.6), poly(5.0, 12.7, 5.5, 14.1, 5.6, 15.4, 6.4, 15.6, 6.95, 13.8, 6.9, 11.9, 6.2, 11.9, 5.5, 12.4)).still(4).with("temporalis; firmer only for a still hold"),

	pair("upper-eyelid", "Upper eyelid", Middle, 1, at(3.05, 12.0, 0.3), poly(1.85, 11.5, 2.5, 12.3, 3.5, 12.4, 4.55, 11.7, 3.9, 11.72, 3.05, 11.85, 2.2, 11.5)).absolute().delicate().with("resting fingers and resistance only; lenses out"),
	pair("lower-eyelid", "Lower eyelid", Middle, 1, at(3.05, 10.45, 0.2), poly(1.85, 10.75, 2.6, 10.6, 3.6, 10.65, 4.4, 10.95, 4.35, 10.6, 3.6, 10.2, 2.6, 10.1, 1.85, 10.35)).absolute().delicate().with("resting fingers and resistance only; lenses out"),
	pair("under-eye", "Under-eye", Middle, 1, at(3.1, 10.05, 0.1), poly(1.85, 10.35, 2.6, 10.1, 3.6, 10.2, 4.35, 10.6, 4.6, 10.4, 3.8, 9.75, 2.8, 9.65, 2.0, 9.9)).absolute().delicate().with("thin skin inside the orbital rim; many never work it"),
	pair("orbital-rim", "Orbital rim", Middle, 2, at(3.2, 9.4, -0.1), poly(1.35, 10.0, 2.0, 9.9, 2.8, 9.65, 3.8, 9.75, 4.6, 10.4, 5.2, 10.2, 4.7, 9.35, 3.5, 8.95, 2.2, 9.2)).delicate().with("the bone below and outside the eye"),
	pair("upper-orbital-rim", "Upper orbital rim", Middle, 2, at(3.2, 12.6, 0.2), poly(0.85, 12.4, 1.9, 12.7, 3.6, 13.0, 5.0, 12.6, 5.1, 12.5, 4.55, 11.7, 3.5, 12.4, 2.5, 12.3, 1.85, 11.5, 1.5, 11.9, 0.85, 11.9)).delicate().with("the bone above the eye, under the brow"),
	pair("inner-eye-corner", "Inner eye corner", Middle, 2, at(1.6, 11.0, 0.4), poly(0.85, 11.9, 1.5, 11.9, 1.85, 11.5, 1.85, 10.35, 1.35, 10.0, 1.0, 10.7)),
	pair("outer-eye-corner", "Outer eye corner", Middle, 2, at(4.5, 11.2, -1.0), poly(4.55, 11.7, 5.1, 12.5, 5.5, 12.4, 6.2, 11.9, 6.15, 10.9, 5.2, 10.2, 4.6, 10.4, 4.4, 10.95)).delicate().with("crow's feet"),
	mid("nose-bridge", "Nose bridge", Middle, 3, at(0, 10.2, 1.6), poly(0, 12.1, 0.8, 12.2, 0.75, 11, 0.8, 9.0, 0.95, 8.2, 0, 8.0)),
	pair("nose-side", "Nose side", Middle, 3, at(1.45, 8.3, 1.0), poly(0.8, 10.9, 1.2, 10.1, 1.55, 9.2, 1.95, 8.0, 1.85, 7.1, 1.0, 6.95, 0.95, 8.2, 0.8, 9.0)).with("side wall and wing; sinus work"),
	pair("cheekbone", "Cheekbone", Middle, 4, at(5.2, 9.4, -1.9), poly(3.5, 8.95, 4.7, 9.35, 5.2, 10.2, 6.15, 10.9, 6.75, 10.4, 6.65, 9.2, 5.2, 8.5, 3.6, 8.2)).with("zygomatic"),
	pair("under-cheekbone", "Under the cheekbone", Middle, 4, at(4.9, 7.9, -1.9), poly(3.6, 8.2, 5.2, 8.5, 6.5, 9.15, 6.35, 8.2, 5.5, 7.3, 4.0, 7.2)).with("below the arch; often very tender"),
	pair("mid-cheek", "Mid cheek", Middle, 3, at(3.0, 8.1, 0.0), poly(1.35, 10.0, 2.2, 9.2, 3.5, 8.95, 3.6, 8.2, 4.0, 7.2, 3.2, 6.6, 2.3, 7.3, 1.95, 8.0, 1.55, 9.2)),

	pair("nasolabial", "Nasolabial fold", Lower, 3, at(2.6, 6.4, 0.5), poly(1.9, 7.5, 2.3, 7.3, 3.2, 6.4, 3.35, 5.2, 2.8, 5.1, 2.5, 5.8, 1.8, 6.7)),
	pair("upper-lip", "Upper lip", Lower, 2, at(1.5, 5.6, 1.0), poly(0.5, 6.6, 1.8, 6.6, 2.5, 5.7, 2.65, 4.9, 1.4, 5.2, 0.5, 5.35)).delicate(),
	pair("lower-lip", "Lower lip", Lower, 2, at(1.5, 3.8, 0.9), poly(0.6, 3.95, 1.4, 4.05, 2.55, 4.6, 2.6, 3.9, 1.8, 3.1, 0.6, 2.9)).delicate(),
	mid("lip-centre-upper", "Upper lip centre", Lower, 2, at(0, 5.9, 1.6), poly(0, 6.7, 0.5, 6.6, 0.5, 5.35, 0, 5.2)).delicate(),
	mid("lip-centre-lower", "Lower lip centre", Lower, 2, at(0, 3.4, 1.3), poly(0, 3.95, 0.6, 3.95, 0.6, 2.9, 0, 2.85)).delicate(),
	pair("mouth-corner", "Mouth corner", Lower, 3, at(2.65, 4.6, 0.4), poly(2.65, 4.95, 3.35, 5.2, 3.4, 4.2, 3.0, 3.6, 2.6, 3.9)).with("the muscle that pulls it down runs from here to the jaw"),
	pair("lower-cheek", "Lower cheek", Lower, 3, at(4.2, 5.4, -1.2), poly(3.2, 6.6, 4.0, 7.2, 5.5, 7.3, 5.6, 5.4, 4.8, 3.95, 3.4, 4.2, 3.35, 5.2)).with("buccal"),
	mid("chin", "Chin", Lower, 4, at(0, 1.4, 1.3), poly(0, 2.8, 1.5, 2.9, 2.0, 2.3, 1.7, 0.6, 0.9, 0.15, 0, 0.05)),
	pair("jawline", "Jawline", Lower, 4, at(3.3, 2.3, -0.6), poly(2.0, 2.3, 3.0, 3.5, 4.8, 3.9, 5.0, 2.95, 3.8, 1.4, 2.2, 0.4, 1.7, 0.6)).with("body of the lower jaw"),
	pair("jaw-angle", "Jaw angle", Lower, 4, at(5.0, 4.2, -4.2), poly(4.8, 3.95, 5.6, 5.4, 6.3, 6.0, 6.15, 4.9, 5.6, 3.7, 5.0, 2.95)).with("masseter; the parotid gland and facial nerve lie over it"),
	mid("under-chin", "Under the chin", Neck, 2, at(0, -0.5, -0.6), poly(0, -0.05, 0.9, 0.05, 1.7, 0.4, 1.4, -0.9, 0, -1.3)).node(Submental),
	pair("under-jaw", "Under the jaw", Neck, 2, at(3.3, 0.6, -2.6), poly(1.7, 0.4, 2.2, 0.3, 3.8, 1.3, 5.0, 2.8, 4.9, 1.4, 3.2, -0.3, 1.4, -0.9)).node(Submandibular),

	pair("front-of-ear", "In front of the ear", SideFace, 2, at(6.4, 8.2, -6.6), poly(6.5, 9.15, 6.75, 9.8, 6.95, 8.6, 6.75, 6.9, 6.3, 6.0, 5.6, 6.2, 5.5, 7.3, 6.35, 8.2)).node(Preauricular).with("the jaw joint lies under it"),
	pair("ear", "Ear", SideFace, 3, at(7.4, 9.0, -8.6), poly(6.95, 10.9, 7.6, 11.4, 8.1, 10.7, 7.85, 8.7, 7.4, 7.3, 6.95, 7.1, 6.95, 8.6)),
	pair("ear-lobe", "Ear lobe", SideFace, 2, at(6.9, 6.5, -7.6), poly(6.75, 6.95, 7.4, 7.25, 7.3, 6.2, 6.85, 5.9, 6.55, 6.4)),
	pair("ear-opening", "Ear opening", SideFace, 1, at(6.9, 8.4, -7.6), nil).with("entrance only, short nails"),
	pair("below-ear", "Below the ear", SideFace, 2, at(6.2, 5.2, -7.6), poly(6.3, 5.95, 6.8, 5.8, 6.45, 4.4, 5.75, 3.5, 5.6, 3.7, 6.15, 4.9)).node(DeepCervical).with("hollow under the lobe"),
	pair("behind-ear", "Behind the ear", SideFace, 2, at(7.2, 8.0, -10.2), nil).node(Mastoid).still(3).with("the bone's edge takes more"),

	pair("scalp-side", "Scalp side", Scalp, 5, at(6.6, 17.0, -6.5), poly(4.3, 19.9, 6.3, 18.7, 7.3, 15.6, 6.95, 13.8, 6.4, 15.6, 6.3, 16.2, 4.6, 17.9)),
	mid("crown", "Crown", Scalp, 5, at(0, 21.8, -7.0), poly(0, 22.3, 2.6, 21.7, 4.3, 19.9, 4.6, 17.9, 1.8, 18.5, 0, 18.6)),
	pair("skull-edge", "Edge of the skull", Scalp, 4, at(3.0, 5.5, -16.5), nil).with("suboccipital muscles"),
	pair("occiput", "Back of the head", Scalp, 2, at(2.6, 8.0, -18.0), nil).node(Occipital).with("occipital nodes, beside the edge of the skull"),

	mid("throat", "Throat", Neck, 0, at(0, -4.5, -3.2), poly(0, -1.35, 1.1, -1.1, 1.0, -7.9, 0, -8.5)).absolute().with("larynx and thyroid: no pressure and no tool, ever; an open hand may pass beside it"),
	pair("front-neck", "Front of the neck", Neck, 1, at(2.1, -4.0, -3.6), poly(1.15, -0.95, 1.4, -0.9, 3.2, -0.3, 3.15, -4, 2.5, -7.9, 1.05, -7.9)).absolute().delicate().with("platysma; the carotid lies here"),
	pair("side-neck", "Side of the neck", Neck, 2, at(5.0, -2.5, -6.4), poly(3.2, -0.3, 4.9, 1.4, 5.6, 3.3, 5.75, 3.4, 5.95, 0, 5.8, -4, 6.3, -6.4, 4.2, -7.5, 2.5, -7.9, 3.15, -4)).node(DeepCervical).with("sternocleidomastoid, held from the side"),
	mid("nape", "Nape", Neck, 2, at(0, 0.5, -15.5), nil).with("the spine itself"),
	pair("back-neck", "Back of the neck", Neck, 4, at(2.4, 0.5, -15.2), nil).with("beside the spine"),
	pair("shoulder", "Shoulder", Shoulder, 5, at(10.5, -7.2, -9.0), poly(6.3, -6.4, 10, -7.2, 14.6, -8.0, 17.4, -9.4, 14.6, -9.3, 9.2, -8.6, 6.2, -7.6)).with("upper trapezius"),
	pair("collarbone", "Collarbone", Chest, 3, at(8.0, -9.7, -3.2), poly(1.5, -9.2, 5, -9.25, 10, -9.3, 15.4, -9.4, 15.0, -10.3, 9, -10.4, 4, -10.3, 1.4, -10.1)),
	pair("collarbone-hollow", "Collarbone hollow", Chest, 2, at(4.8, -8.4, -4.4), poly(2.5, -7.95, 4.2, -7.55, 6.2, -7.65, 8.4, -8.4, 9.2, -9.1, 5, -9.15, 1.5, -9.1)).node(Terminus).with("the terminus, where lymph returns to the blood"),
	pair("below-collarbone", "Below the collarbone", Chest, 3, at(8.0, -11.4, -2.4), poly(3.4, -10.4, 9, -10.5, 14.2, -10.4, 13.0, -12.4, 8, -12.6, 3.2, -12.2)),
	mid("breastbone", "Breastbone", Chest, 3, at(0, -12.5, -1.2), poly(0, -9.4, 1.3, -9.6, 1.5, -15.8, 0, -16)),
	pair("chest", "Chest", Chest, 3, at(6.5, -14.0, -1.2), poly(1.55, -10.3, 3.2, -10.4, 3.2, -12.3, 8, -12.7, 12.7, -12.5, 12.2, -15.2, 7, -16, 1.6, -15.8)).with("decollete, pectoral"),
	pair("armpit", "Armpit", Chest, 2, at(14.2, -14.0, -6.0), poly(13.3, -12.3, 15.4, -11.6, 15.3, -15.6, 13.0, -15.6, 12.5, -14)).node(Axillary),

	pair("mouth-cheek", "Inside the cheek", Mouth, 3, at(3.8, 5.2, -2.0), nil).with("masseter from inside"),
	pair("mouth-upper", "Above the last upper teeth", Mouth, 3, at(3.2, 6.4, -4.0), nil).with("lateral pterygoid"),
	pair("mouth-lower", "Inside the last lower teeth", Mouth, 3, at(3.0, 4.2, -4.0), nil).with("medial pterygoid; gag reflex"),

	pair("hand", "Hand", AddOn, 4, at(28, -46, 0), nil),
	pair("forearm", "Forearm", AddOn, 4, at(25, -34, -2), nil),
	pair("upper-back", "Upper back", AddOn, 4, at(6, -14, -18), nil),
	mid("belly", "Belly", AddOn, 3, at(0, -38, 2), nil).still(3),
	mid("navel", "Around the navel", AddOn, 3, at(0, -42, 3), nil).still(3),
	pair("ribs", "Ribs", AddOn, 3, at(12, -30, 0), nil),
	pair("back", "Back", AddOn, 3, at(6, -32, -18), nil),
	pair("hip", "Hips", AddOn, 3, at(16, -52, -4), nil),
	pair("thigh", "Thighs", AddOn, 3, at(12, -72, 0), nil),
	pair("knee", "Knees", AddOn, 3, at(11, -96, 2), nil),
	pair("foot", "Feet", AddOn, 3, at(10, -140, 4), nil),
}

func at(x, y, z float64) Point { return Point{x, y, z} }

func poly(xy ...float64) [][2]float64 {
	out := make([][2]float64, 0, len(xy)/2)
	for i := 0; i+1 < len(xy); i += 2 {
		out = append(out, [2]float64{xy[i], xy[i+1]})
	}
	return out
}

func mid(key, name string, r Region, ceiling int, c Point, outline [][2]float64) Zone {
	return Zone{Key: key, Name: name, Midline: true, Region: r, Ceiling: ceiling, StillCeiling: still(r, ceiling), Centre: c, Outline: outline}
}

func pair(key, name string, r Region, ceiling int, c Point, outline [][2]float64) Zone {
	z := mid(key, name, r, ceiling, c, outline)
	z.Midline, z.Paired = false, true
	return z
}

// still is the ceiling of a still press: one higher on bone or muscle belly,
// which is every zone of the head, shoulder and back that takes pressure 3 or more.
func still(r Region, ceiling int) int {
	if ceiling >= 3 && ceiling < 5 && r != Mouth && r != Neck && r != Chest {
		return ceiling + 1
	}
	return ceiling
}

func (z Zone) absolute() Zone {
	z.Absolute, z.StillCeiling = true, z.Ceiling
	return z
}

func (z Zone) delicate() Zone          { z.Delicate = true; return z }
func (z Zone) still(n int) Zone        { z.StillCeiling = n; return z }
func (z Zone) node(g NodeGroup) Zone   { z.Node = g; return z }
func (z Zone) with(note string) Zone   { z.Note = note; return z }
func (z Zone) both(xy ...float64) Zone { z.Midline, z.MidOutline = true, poly(xy...); return z }
