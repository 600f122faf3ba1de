/** The rooms of the house by the moment in which one needs them, and what each page is for. */

import { matchPath } from 'react-router'

export const ROOMS = {
  tonight: 'Tonight',
  drinks: 'Drinks',
  shelf: 'Shelf',
  editions: 'Editions',
  house: 'House',
} as const
export type Room = keyof typeof ROOMS

export interface Page {
  room: Room
  /** One sentence: what it is for. */
  lead: string
}

/** A page that has a word in the line. */
export interface Place extends Page {
  label: string
  keys: string
}

/** Every page by its address. */
export const PAGES = {
  '/': {
    room: 'tonight',
    label: 'Menu',
    keys: 'g m',
    lead: 'What is poured tonight: each drink against its standard, as it would be at the well you stand at.',
  },
  '/rail': {
    room: 'tonight',
    label: 'Rail',
    keys: 'g r',
    lead: 'Make a round: what is asked for at this well, step by step, with the seconds counted and nothing forgotten.',
  },
  '/cards': {
    room: 'tonight',
    lead: 'Every drink of the menu as a card that is read from two metres: by its letters, by a bottle in hand, by its glass.',
  },
  '/learn': {
    room: 'tonight',
    lead: 'Learn the edition in ten minutes a day: amounts, order, seconds, glass and allergens; and what your own hand pours.',
  },
  '/out': {
    room: 'tonight',
    label: 'Out',
    keys: 'g o',
    lead: 'What is not there tonight: say so in two taps, see what goes dark, and choose what is poured instead.',
  },
  '/pour': {
    room: 'tonight',
    label: 'Pour',
    keys: 'g k',
    lead: 'What can be poured with what is here now, by what a guest wishes for: spirit, taste, strength, glass, allergen.',
  },
  '/adrift': {
    room: 'tonight',
    label: 'Adrift',
    keys: 'g a',
    lead: 'Every drink that is not what it promises, at every well, and what moved it since the menu was published.',
  },
  '/ice': {
    room: 'tonight',
    label: 'Ice',
    keys: 'g i',
    lead: 'The wells and their machines: what ice stands there, and how many seconds each machine needs.',
  },
  '/ice/glasses': {
    room: 'tonight',
    label: 'Glasses',
    keys: 'g v',
    lead: 'Every drink in every glass: where it would stand, and what would run over.',
  },
  '/ice/trial': {
    room: 'tonight',
    lead: 'Weigh a drink before and after its ice: from a few of these the house learns how a machine really works.',
  },
  '/ice/new': { room: 'tonight', lead: 'A new well: a place to stand, with its own ice, glasses and machines.' },
  '/ice/:well': {
    room: 'tonight',
    lead: 'One well: its ice and scoop, its glasses, and the machines that stand there.',
  },
  '/ice/:well/:station': {
    room: 'tonight',
    lead: 'One machine: its trials, what was learned from them, and whether it drifts.',
  },
  '/drinks': {
    room: 'drinks',
    label: 'All drinks',
    keys: 'g d',
    lead: 'Every drink the house ever wrote, on the menu or not; none of its versions is ever lost.',
  },
  '/compare': {
    room: 'drinks',
    label: 'Compare',
    keys: 'g c',
    lead: 'Drinks, versions, blends and bottles in one chart; any two of them side by side.',
  },
  '/compare/sheet': {
    room: 'drinks',
    lead: 'Two to five versions on one sheet, counted alike: what each pours, how it is made, and what is in the glass.',
  },
  '/flight': {
    room: 'drinks',
    label: 'Taste',
    keys: 'g f',
    lead: 'Bottles tasted beside each other: what several tasters say of them is what the charts of the base show.',
  },
  '/tastings': {
    room: 'drinks',
    label: 'Blind',
    keys: 'g t',
    lead: 'Versions tasted blind: what the house decides on is what was in the glass, not who wrote it.',
  },
  '/tastings/:id': {
    room: 'drinks',
    lead: 'One blind tasting: judge each glass by its code; which was which is seen when it is closed.',
  },
  '/research': {
    room: 'drinks',
    label: 'To research',
    keys: 'g q',
    lead: 'What is still to be found out about where the drinks come from: answered here, it stands in their lineage.',
  },
  '/drinks/:slug/tune': {
    room: 'drinks',
    lead: 'The nearest pours that bring this drink to what its glass has to hold, measured with the jiggers of the house.',
  },
  '/drinks/:slug/lineage': {
    room: 'drinks',
    lead: 'How one drink came to be: every printed, remembered and house version of it, and what the sources say.',
  },
  '/drinks/:slug': {
    room: 'drinks',
    lead: 'One drink: change a pour and the glass beside it answers; save it as a version when it is right.',
  },
  '/drinks/:slug/bench': {
    room: 'drinks',
    lead: 'The ice and the seconds that bring this drink to its standard, and how often a hand lands there.',
  },
  '/back-bar': {
    room: 'shelf',
    label: 'Back bar',
    keys: 'g b',
    lead: 'Everything the house can pour, with its figures and how we know them.',
  },
  '/mixes': {
    room: 'shelf',
    label: 'Mixes',
    keys: 'g x',
    lead: 'What the house makes itself: recipes, and the lot of each that is poured now.',
  },
  '/lots': {
    room: 'shelf',
    label: 'Lots',
    keys: 'g l',
    lead: 'Everything that was made, by number: when, by whom, what was measured, and until when it is good.',
  },
  '/base': {
    room: 'shelf',
    label: 'Base',
    keys: 'g s',
    lead: 'Blends of several rums, and slots: a taste that more than one bottle may fill.',
  },
  '/blends/:slug': {
    room: 'shelf',
    lead: 'One blend: cut the bar, and see how near it comes to what it should taste of.',
  },
  '/slots/:slug': { room: 'shelf', lead: 'One slot: the taste it stands for, and the bottles that may fill it.' },
  '/stand-in': {
    room: 'shelf',
    lead: 'A bottle is out: the bottle or the split of two or three that comes nearest to it.',
  },
  '/mixes/:slug': {
    room: 'shelf',
    lead: 'One mix: its recipe, and the strength, sugar, acid and days that follow from it.',
  },
  '/mixes/:slug/make': { room: 'shelf', lead: 'Make a lot: weights for the size you want, ticked off as they go in.' },
  '/lots/:id': { room: 'shelf', lead: 'One lot: what went in, what was measured, and where it went.' },
  '/next': {
    room: 'editions',
    label: 'Next edition',
    keys: 'g n',
    lead: 'The menu in the making: publish it, and every version, figure and recipe of it is kept as it is, for ever.',
  },
  '/editions': {
    room: 'editions',
    label: 'Published',
    keys: 'g e',
    lead: 'Every menu that was ever poured, exactly as it was.',
  },
  '/editions/:number': { room: 'editions', lead: 'One edition: what was poured then, with the figures of that day.' },
  '/editions/:number/:drink': {
    room: 'editions',
    lead: 'A drink as an edition locked it: nothing changes here any more.',
  },
  '/house': {
    room: 'house',
    label: 'House',
    keys: 'g h',
    lead: 'What holds everywhere: ounce and jiggers, glasses, prices, and copies of the house.',
  },
  '/people': {
    room: 'house',
    label: 'People',
    keys: 'g p',
    lead: 'Who works here and what they may, who is signed in where, and the devices of the house.',
  },
  '/audit': {
    room: 'house',
    label: 'Who did what',
    keys: 'g w',
    lead: 'Everything that was ever done here: who, when, and what it was before.',
  },
  '/house/you': {
    room: 'house',
    lead: 'Your own PIN, where you are signed in, and what you did.',
  },
} as const satisfies Record<string, Page | Place>
export type PagePath = keyof typeof PAGES

const ALL = Object.entries(PAGES) as [PagePath, Page & Partial<Place>][]

/** The places of a room, in their order. */
export const placesOf = (room: Room): (Place & { path: PagePath })[] =>
  ALL.flatMap(([path, page]) =>
    page.room === room && page.label !== undefined && page.keys !== undefined
      ? [{ ...page, label: page.label, keys: page.keys, path }]
      : [],
  )

/** The page of an address, if it is one; of several that fit, the one with the fewest gaps to fill. */
export function pageAt(pathname: string): (Page & { path: PagePath }) | undefined {
  const gaps = (path: string) => path.split(':').length
  const fitting = ALL.filter(([path]) => matchPath(path, pathname)).sort(([a], [b]) => gaps(a) - gaps(b))
  const [found] = fitting
  return found && { ...found[1], path: found[0] }
}

/** The place to which a page belongs: the one whose address its own begins with, else the first of its room. */
export function placeAt(pathname: string): (Place & { path: PagePath }) | undefined {
  const page = pageAt(pathname)
  if (!page) return undefined
  const places = placesOf(page.room)
  const near = places
    .filter(({ path }) => pathname === path || pathname.startsWith(`${path}/`) || BELONGS[page.path] === path)
    .sort((a, b) => b.path.length - a.path.length)
  return near[0]
}

/** Pages whose address does not say to which place they belong. */
const BELONGS: Partial<Record<PagePath, PagePath>> = {
  '/blends/:slug': '/base',
  '/slots/:slug': '/base',
  '/stand-in': '/base',
  '/cards': '/rail',
  '/learn': '/rail',
}
