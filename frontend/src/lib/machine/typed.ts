import type { MachineDoc } from '$lib/api/client';

/** A test point as it is typed. */
export type Point = { outdoor: string; water: string; output: string; cop: string; least: string };
export const BLANK: Point = { outdoor: '', water: '', output: '', cop: '', least: '' };

/** Points as most makers print them, to be filled. */
export const USUAL: Point[] = [
	[-7, 35],
	[2, 35],
	[7, 35],
	[-7, 55],
	[2, 55],
	[7, 55]
].map(([outdoor, water]) => ({ ...BLANK, outdoor: String(outdoor), water: String(water) }));

export type Said = {
	id: string;
	name: string;
	refrigerant: string;
	kind: string;
	coldest: string;
	hottest: string;
	sound: string;
	quiet: string;
	amps: string;
	leastFlow: string;
	leastWater: string;
	running: string;
};

/** The rows of the sheet a machine that is typed would have been brought in by: one reader judges both. */
export function asSheet(said: Said, points: Point[]): string {
	const head =
		'id,name,kind,refrigerant,outdoor_c,water_c,output_kw,cop,least_kw,lowest_outdoor_c,hottest_water_c,sound_db,quiet_sound_db,max_current_a,least_flow_lph,least_water_l,running_w';
	const cell = (text: string): string => `"${text.trim().replaceAll('"', '""').replace(',', '.')}"`;
	const name = `"${said.name.trim().replaceAll('"', '""')}"`;
	const once = [
		said.coldest,
		said.hottest,
		said.sound,
		said.quiet,
		said.amps,
		said.leastFlow,
		said.leastWater,
		said.running
	];
	const rows = points
		.filter((p) => p.output.trim() !== '' || p.cop.trim() !== '')
		.map((p, n) =>
			[
				cell(said.id),
				name,
				cell(said.kind),
				cell(said.refrigerant),
				...[p.outdoor, p.water, p.output, p.cop, p.least].map(cell),
				...(n === 0 ? once : once.map(() => '')).map(cell)
			].join(',')
		);
	return [head, ...rows].join('\r\n');
}

/** A machine that is kept, as it would be typed. */
export function fromDoc(doc: MachineDoc): { said: Said; points: Point[] } {
	const text = (value: number | null | undefined): string => (value == null ? '' : String(value));
	const worked = new Set((doc.worked_out ?? []).map(([i, j]) => `${i} ${j}`));
	return {
		said: {
			id: doc.id,
			name: doc.label,
			refrigerant: doc.refrigerant,
			kind: doc.kind ?? 'monobloc',
			coldest: text(doc.lowest_outdoor_c),
			hottest: text(Math.max(...doc.limit_water_c)),
			sound: text(doc.sound_power_day_db),
			quiet: text(doc.sound_power_night_db),
			amps: text(doc.max_current_a),
			leastFlow: text(doc.least_flow_lph),
			leastWater: text(doc.least_volume_l),
			running: text(doc.always_on_w)
		},
		points: doc.outdoor_c.flatMap((outdoor, i) =>
			doc.water_c.flatMap((water, j) =>
				worked.has(`${i} ${j}`)
					? []
					: [
							{
								outdoor: text(outdoor),
								water: text(water),
								output: text((doc.greatest_w[i]?.[j] ?? 0) / 1000),
								cop: text(doc.cop[i]?.[j]),
								least: doc.least_w ? text((doc.least_w[i]?.[j] ?? 0) / 1000) : ''
							}
						]
			)
		)
	};
}

/** An id from a name: small letters, digits, dashes. */
export function idOf(name: string): string {
	return name
		.toLowerCase()
		.replace(/[^a-z0-9]+/g, '-')
		.replace(/^-|-$/g, '')
		.slice(0, 60);
}
