/** The places of work and the screens that work in them, in working order. */
export type ScreenKey = 'site' | 'rooms' | 'waterline' | 'machine' | 'hot-water' | 'pipework' | 'curve';

export const PLACES: { name: string; when: string; screens: { key: ScreenKey; label: string; shortcut: string }[] }[] = [
	{ name: 'Desk', when: 'before', screens: [{ key: 'site', label: 'Site and practice', shortcut: 's' }] },
	{ name: 'House', when: 'on site', screens: [{ key: 'rooms', label: 'Rooms', shortcut: 'r' }] },
	{
		name: 'Board',
		when: 'design',
		screens: [
			{ key: 'waterline', label: 'Waterline', shortcut: 'w' },
			{ key: 'machine', label: 'Machine', shortcut: 'm' },
			{ key: 'hot-water', label: 'Hot water', shortcut: 'h' },
			{ key: 'pipework', label: 'Pipework', shortcut: 'p' }
		]
	},
	{ name: 'Fire-up', when: 'the day', screens: [{ key: 'curve', label: 'Curve desk', shortcut: 'c' }] }
];

export const SCREENS = PLACES.flatMap((place) => place.screens);
