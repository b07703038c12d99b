import type { EmitterSpec, Job, Product, RoomDoc } from '$lib/api/client';
import rules from '$lib/api/rules.json';
import type { Draft } from '$lib/job/draft';
import type { Option } from '$lib/parts/choices';

export type Hung = {
	id: string;
	room: string;
	label: string;
	spec: EmitterSpec;
	fate: 'keep' | 'replace' | 'add' | 'remove';
};

/** Every emitter of the house as the scheme leaves it, those it takes out among them. */
export function hung(job: Job, scheme: string | null): Hung[] {
	const actions = scheme ? (job.schemes?.[scheme]?.emitters ?? {}) : {};
	const found = Object.entries(job.survey?.emitters ?? {}).map(([id, e]): Hung => {
		const action = actions[id];
		const swapped = action?.action === 'replace' && action.spec;
		return {
			id,
			room: e.room,
			label: (swapped && action.label) || e.label || '',
			spec: swapped ? action.spec! : (e.spec ?? {}),
			fate: action?.action === 'remove' ? 'remove' : swapped ? 'replace' : 'keep'
		};
	});
	const added = Object.entries(actions)
		.filter(([, a]) => a.action === 'add' && a.spec && a.room)
		.map(([id, a]): Hung => ({ id, room: a.room!, label: a.label ?? '', spec: a.spec!, fate: 'add' }));
	return [...found, ...added];
}

/** Where an emitter lies: in the scheme once it is replaced or added there, else in the survey. Asked of the job the
 * gesture will be applied to, since an earlier gesture may still be on its way. */
export function emitterPath(job: Job, scheme: string | null, id: string): string {
	const action = scheme ? job.schemes?.[scheme]?.emitters?.[id]?.action : undefined;
	return action === 'replace' || action === 'add' ? `/schemes/${scheme}/emitters/${id}` : `/survey/emitters/${id}`;
}

/** Kinds that are no radiator by type and face. */
export const KINDS: Option[] = [
	{ value: 'stated', label: 'Output stated (a label, a loop)', group: 'Others' },
	{ value: 'fan', label: 'Fan-assisted unit', group: 'Others' },
	{ value: 'floor', label: 'Heated floor', group: 'Others' },
	{ value: 'wall', label: 'Heated wall', group: 'Others' },
	{ value: 'electric', label: 'Heater of its own, no water', group: 'Others' }
];

type Plain = Partial<EmitterSpec>;
const PLAIN = rules.emitters as Record<string, Plain>;
/** The part of a floor that is heated until somebody says, m² to the hundredth. */
const heatedPart = (area: number): number => Math.round(area * rules.heated_share * 100) / 100;

/** Another kind or type: what the old one was rated by goes, what hangs on the place stays. */
export function setKind(d: Draft, at: string, value: string | null, area: number | null): void {
	const other = value !== null && value in PLAIN;
	if (other) {
		d.set(`${at}/kind`, value);
		const plain = PLAIN[value!]!;
		for (const [name, one] of Object.entries(plain)) d.set(`${at}/${name}`, one);
		if (!plain.heated) d.remove(`${at}/heated`);
		else if (area && value === 'floor') d.set(`${at}/heated/area_m2`, heatedPart(area));
		if (value !== 'electric' && value !== 'stated') d.remove(`${at}/output_w`);
		if (value !== 'fan') d.remove(`${at}/speeds`);
		for (const name of ['type', 'product']) d.remove(`${at}/${name}`);
	} else {
		d.set(`${at}/kind`, 'panel');
		if (value) d.freeze('emitter_types', value);
		d.put(`${at}/type`, value);
		for (const name of ['heated', 'speeds', 'output_w', 'product', 'exponent', 'excess_k', 'water_l'])
			d.remove(`${at}/${name}`);
	}
}

/** A product of a list put in: its figures travel into the job. */
export function takeProduct(d: Draft, at: string, one: Product, area: number | null): void {
	for (const name of ['output_w', 'speeds', 'heated', 'exponent', 'water_l', 'excess_k', 'type'])
		d.remove(`${at}/${name}`);
	d.set(`${at}/product`, one.label);
	if (one.kind === 'loop') {
		d.set(`${at}/kind`, 'floor');
		d.set(`${at}/heated`, {
			method: 'entered',
			build: one.label,
			k_w_m2k: one.k_w_m2k,
			...(one.spacing_m ? { spacing_m: one.spacing_m } : {}),
			covering_r_m2kw: one.covering_r_m2kw ?? 0,
			...(area ? { area_m2: heatedPart(area) } : {})
		});
		return;
	}
	d.set(`${at}/kind`, one.kind === 'fan' ? 'fan' : 'panel');
	for (const [name, value] of [
		['length_m', one.length_m],
		['height_m', one.height_m],
		['exponent', one.exponent],
		['water_l', one.water_l],
		['excess_k', one.at_k]
	] as const)
		if (value != null) d.set(`${at}/${name}`, value);
	if (one.kind === 'fan')
		d.set(
			`${at}/speeds`,
			(one.speeds ?? []).map((s) => ({
				label: s.label,
				output_w: s.output_w,
				electric_w: s.electric_w,
				...(s.sound_db != null ? { sound_db: s.sound_db } : {})
			}))
		);
	else {
		if (one.type) {
			d.freeze('emitter_types', one.type);
			d.set(`${at}/type`, one.type);
		}
		if (one.output_w != null) d.set(`${at}/output_w`, one.output_w);
	}
}

/** Walls of a room by name, for an emitter to hang on. */
export function wallOptions(room: RoomDoc | undefined): Option[] {
	return (room?.walk ?? []).map((run, n) => ({
		value: run.id,
		label: room?.faces?.[run.id]?.label || `Wall ${n + 1}`
	}));
}
