import type { ReactNode } from 'react'

/** A garnish by its words, drawn in a few lines: enough to know it at arm's length. */
const DRAWINGS: readonly [RegExp, string, ReactNode][] = [
  [
    /\bmint\b|\bbasil\b|\bsage\b|\bherb/i,
    'a sprig of leaves',
    <path
      key="d"
      d="M60 112V46M60 78C38 78 30 66 28 54 46 52 58 60 60 78M60 70C82 70 90 58 92 46 74 44 62 52 60 70M60 46C46 40 44 24 60 12 76 24 74 40 60 46"
    />,
  ],
  [
    /\bshell\b|\bhusk\b|\bhalf\b/i,
    'a hollow half of a fruit',
    <path
      key="d"
      d="M14 50C14 92 38 108 60 108S106 92 106 50M14 50C14 38 36 32 60 32S106 38 106 50 84 68 60 68 14 62 14 50M24 50c4-8 20-10 36-10s32 2 36 10"
    />,
  ],
  [
    /\bwheels?\b|\bslices?\b|\brounds?\b/i,
    'a wheel of fruit',
    <path
      key="d"
      d="M60 12A48 48 0 1 1 59.9 12M60 22A38 38 0 1 1 59.9 22M60 60V22M60 60L93 41M60 60L93 79M60 60V98M60 60L27 79M60 60L27 41"
    />,
  ],
  [
    /\bwedge\b/i,
    'a wedge of fruit',
    <path
      key="d"
      d="M12 38H108C104 78 84 100 60 100S16 78 12 38M24 48H96C92 74 78 90 60 90S28 74 24 48M60 48V90M60 90L40 48M60 90L80 48"
    />,
  ],
  [
    /\b(?:twist|peel|zest|strip)\b/i,
    'a twist of peel',
    <path key="d" d="M30 14c40 6 60 22 40 40s-44 14-30 34 44 12 50 22M44 10c44 8 62 30 40 50S44 74 52 86s34 8 48 14" />,
  ],
  [/\bcherr/i, 'a cherry on its stalk', <path key="d" d="M50 64A24 24 0 1 1 49.9 64M56 66C60 42 74 22 96 14" />],
  [
    /\b(?:frond|leaf|leaves|fern|palm)\b/i,
    'a long leaf',
    <path
      key="d"
      d="M60 114C60 70 60 40 60 8M60 8C30 30 24 60 60 96M60 8C90 30 96 60 60 96M60 40L40 34M60 56L38 54M60 72L42 74M60 40L80 34M60 56L82 54M60 72L78 74"
    />,
  ],
  [
    /\b(?:flower|orchid|blossom|petal)/i,
    'a flower',
    <path
      key="d"
      d="M60 50A10 10 0 1 1 59.9 50M60 50C40 34 48 12 60 12S80 34 60 50M70 60C84 40 106 46 106 58S86 78 70 60M66 70C84 84 78 106 66 106S52 88 66 70M54 70C40 88 28 100 18 92S34 62 54 70M50 58C28 60 12 46 18 34S48 38 50 58"
    />,
  ],
  [
    /\b(?:nutmeg|cinnamon|grated|dust|spice|salt|sugar)/i,
    'a pinch over the top',
    <path
      key="d"
      d="M20 20l14 14M86 16L72 32M56 14v20M24 66h2M40 58h2M56 66h2M72 58h2M88 66h2M32 80h2M48 76h2M64 82h2M80 76h2M14 98H106M40 94h2M60 96h2M80 94h2"
    />,
  ],
  [/\b(?:umbrella|stick|pick|straw)\b/i, 'a stick', <path key="d" d="M30 108L92 12M24 40C40 16 70 8 98 22L60 58Z" />],
]

/** Undefined where nothing is drawn of it: then its words stand alone. */
export function GarnishDrawing({ text, size = 220 }: { text: string; size?: number }) {
  const found = DRAWINGS.find(([words]) => words.test(text))
  if (!found) return null
  const [, label, lines] = found
  return (
    <svg
      viewBox="0 0 120 120"
      width={size}
      height={size}
      role="img"
      aria-label={label}
      fill="none"
      stroke="var(--ink)"
      strokeWidth={2.5}
      strokeLinecap="round"
      strokeLinejoin="round"
    >
      <title>{label}</title>
      {lines}
    </svg>
  )
}
