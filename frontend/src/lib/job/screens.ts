/** The places of work and the screens that work in them, in working order. */
export type ScreenKey =
	| 'call'
	| 'site'
	| 'climate'
	| 'walk-round'
	| 'plan'
	| 'rooms'
	| 'constructions'
	| 'doubts'
	| 'losses'
	| 'air'
	| 'year'
	| 'measures'
	| 'emitters'
	| 'waterline'
	| 'machine'
	| 'hot-water'
	| 'pipework'
	| 'plant'
	| 'materials'
	| 'offer'
	| 'report'
	| 'curve'
	| 'twin'
	| 'correction'
	| 'fire-up'
	| 'wiring'
	| 'practice'
	| 'pack'
	| 'winters';

export const PLACES: { name: string; when: string; screens: { key: ScreenKey; label: string; shortcut: string }[] }[] =
	[
		{
			name: 'Desk',
			when: 'before',
			screens: [
				{ key: 'call', label: 'First call', shortcut: 't' },
				{ key: 'site', label: 'Site and practice', shortcut: 's' },
				{ key: 'climate', label: 'Climate', shortcut: 'k' }
			]
		},
		{
			name: 'House',
			when: 'on site',
			screens: [
				{ key: 'walk-round', label: 'Walk-round', shortcut: 'o' },
				{ key: 'plan', label: 'Plan', shortcut: 'l' },
				{ key: 'rooms', label: 'Rooms', shortcut: 'r' },
				{ key: 'emitters', label: 'Emitters', shortcut: 'v' },
				{ key: 'constructions', label: 'Constructions', shortcut: 'b' },
				{ key: 'doubts', label: 'Doubts and gaps', shortcut: 'u' }
			]
		},
		{
			name: 'Board',
			when: 'design',
			screens: [
				{ key: 'losses', label: 'Losses', shortcut: 'e' },
				{ key: 'air', label: 'Air', shortcut: 'a' },
				{ key: 'year', label: 'Year and bills', shortcut: 'y' },
				{ key: 'measures', label: 'Measures', shortcut: 'i' },
				{ key: 'waterline', label: 'Waterline', shortcut: 'w' },
				{ key: 'machine', label: 'Machine', shortcut: 'm' },
				{ key: 'hot-water', label: 'Hot water', shortcut: 'h' },
				{ key: 'pipework', label: 'Pipework', shortcut: 'p' },
				{ key: 'plant', label: 'Plant', shortcut: 'n' },
				{ key: 'materials', label: 'Materials', shortcut: 'j' },
				{ key: 'offer', label: 'Offer', shortcut: '5' },
				{ key: 'report', label: 'Report', shortcut: 'g' }
			]
		},
		{
			name: 'Fire-up',
			when: 'the day',
			screens: [
				{ key: 'curve', label: 'Curve desk', shortcut: 'c' },
				{ key: 'twin', label: 'The house, run', shortcut: 'x' },
				{ key: 'fire-up', label: 'Fire-up', shortcut: '1' },
				{ key: 'wiring', label: 'Controller record', shortcut: '2' },
				{ key: 'correction', label: 'Correction desk', shortcut: '3' },
				{ key: 'practice', label: 'Practice', shortcut: '4' }
			]
		},
		{
			name: 'Winters',
			when: 'after',
			screens: [
				{ key: 'pack', label: 'Pack', shortcut: '6' },
				{ key: 'winters', label: 'Winters', shortcut: '7' }
			]
		}
	];

export const SCREENS = PLACES.flatMap((place) => place.screens);
