// What the server answers; the PHP side is app/Http/Resources and the controllers beside them.
// What a step may have is generated: steps.ts.
import type {
    BentStep, BlocksStep, BodyStep, ChopStep, DrawnStep, FlatStep, GatheredStep, MirrorStep, PointsStep, RingsStep, SeriesStep, ShardsStep, SingleMendStep, StepKind, WanderStep,
} from './steps'

export type Vector = [number, number, number]
export type Units = 'mm' | 'cm' | 'm' | 'in'
export type Keep = NonNullable<FlatStep['keep']>
export type Seal = NonNullable<FlatStep['seal']>
export type KerfSide = NonNullable<FlatStep['kerf_side']>
export type Format = 'stl' | 'obj' | 'ply' | 'off' | '3mf' | 'glb'

export interface Faults {
    open_edges: number
    nonmanifold_edges: number
    flipped_edges: number
}

/** How a piece goes into the printer's working space. */
export interface Fit {
    fits: boolean
    how: 'stands' | 'turned' | 'laid down' | 'tilted' | 'too large'
    over_mm: number
}

/** The same of a piece. */
export interface PieceFit extends Fit {
    /** In which it fits when it is tilted. */
    turn: { axis: Vector; degrees: number } | null
    /** Its box is too large; whether it fits in some turn is not known yet. */
    unsure: boolean
}

export interface Printer {
    id: number
    name: string
    x: number
    y: number
    z: number
    own: boolean
    /** The bed is round, and x and y its diameter. */
    round: boolean
    nozzle: number
    layer: number
    gap: number
    margin: number
}

export interface Piece {
    id: number
    /** The piece it was made of, or the first of them. */
    parent: number | null
    /** All pieces that it was made of. */
    parents: number[]
    name: string
    title: string | null
    made_by: number | null
    spent_by: number | null
    fit: PieceFit | null
    colour: string
    spent: boolean
    mesh: string
    triangles: number
    vertices: number
    shells: number
    watertight: boolean
    faults: Faults
    volume: number
    area: number
    min: Vector
    max: Vector
    centroid: Vector
    /** What it carries besides its shape: materials, pictures, texture coordinates, colours, normals. */
    carries: string[]
}

export interface Run {
    id: string
    kind: string
    status: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'
    phase: string
    progress: number
    message: string | null
    over: boolean
    /** Is there anybody to do it? */
    worker: boolean
}

type Keys<U> = U extends unknown ? keyof U : never
type At<U, K> = U extends unknown ? (K extends keyof U ? U[K] : never) : never
/** All that any of these has, each of it only perhaps. */
type Any<U> = { [K in Keys<U>]?: At<U, K> }

/** How a flat blade, or a series of them, divides space, as the recipe writes it. */
export type FlatOrSeries = Any<(FlatStep | SeriesStep | WanderStep)['blade']> & { kind: 'flat' | 'series'; facing: Vector }

export type CellsStep = ShardsStep | GatheredStep | PointsStep | BlocksStep | RingsStep | ChopStep
export type CellsBy = CellsStep['blade']['by']
/** How cells divide space, as the recipe writes it. */
export type CellsBlade = Any<CellsStep['blade']> & {
    kind: 'cells'
    by: CellsBy
    /** The piece whose vertices are the points: the server writes them down. */
    vertices_of?: number
}

/** A step of any kind as the recipe writes it; its types are generated from the schemas of the kinds. */
export type StepSettings = Omit<Any<StepKind>, 'do' | 'blade'> & { do: StepKind['do']; blade?: FlatOrSeries | CellsBlade | BodyStep['blade'] | DrawnStep['blade'] | BentStep['blade'] }

export type Gives = NonNullable<MirrorStep['gives']>
export type Band = NonNullable<MirrorStep['band']>

/** A step but for the pieces that it takes. */
export interface StepQuestion {
    step: Omit<StepSettings, 'of'>
    pieces: number[] | null
    /** Made for a try on the pieces themselves, not foreseen from what stands in for them. */
    tried?: boolean
}

export interface CellsForecast {
    pieces: number
    largest: number | null
    smallest: number | null
    about: boolean
    left_out: number
    /** Lines, six 32-bit floats each, base64. */
    skin: string
    inner: string
}

/** An area of the page that is carried along the sight. */
export interface LostSide {
    eye: Vector | null
    along: Vector
    right: Vector
    up: Vector
    /** Distance along the sight at which the area ends; beneath it all is lost, or nothing. */
    floor: number | null
    beneath: boolean
    /** Triangles, 32-bit floats in base64: u and v of three corners each. */
    area: string
}

/** What a cut along drawn lines, or with a bent blade, would make. */
export interface DrawnForecast {
    /** That would be left. */
    pieces: number
    /** Pieces that are cut at all. */
    cut: number
    behind_mm3: number
    removed_mm3: number
    ahead_mm3: number
    /** Ends of lines that lie within a piece: beside them it hangs together. */
    loose: number
    about: boolean
    left_out: number
    /** Lines, six 32-bit floats each, base64. */
    skin: string
    inner: string
    /** What does not stay; null when all does. */
    lost: LostSide | null
}

export interface MirrorForecast {
    refusal: string | null
    crosses: boolean
    apart: number
    rims: number
    gap: number
    weld: number
    /** Along the seam, degrees; null where nothing is joined. */
    kink: number | null
    mean_kink: number | null
    /** Rims near the plane that stay open: two points a line. */
    unjoined: number[]
    /** Of a full turn about the copies' axis, degrees; null when unknown. */
    span: number | null
}

export interface SymmetryAnswer {
    largest: number
    mean: number
    facing: Vector
    through: Vector
    /** Corners of triangles: x, y, z and deviation, 32-bit floats, base64. */
    map: string
}

export interface Step {
    id: number
    number: number
    /** Of long lists the beginning only. */
    settings: StepSettings
    /** Their lengths, by their place in the settings; whole ones are fetched. */
    long: Record<string, number>
    report: { took: string[]; gave: string[]; seconds: number }
}

/** A material that came with a mesh. */
export interface Material {
    number: number
    name: string
    triangles: number
    colour: string
    /** Where the picture of its colour is. */
    picture: string | null
    /** Its faces have coordinates that a picture can lie on. */
    places: boolean
}

/** How faces made by cutting look: one colour, or a picture that runs through the body. */
export interface Inside {
    look: string
    colour?: string
    /** Millimetres that the picture takes across; degrees by which it is turned. */
    mm?: number
    turn?: number
    /** Of a picture of the person's own. */
    name?: string
    /** Where the picture is, behind the address of the interface. */
    picture?: string
    /** Millimetres to places on the picture, across and down. */
    scales?: [number, number]
}

export interface Project {
    id: number
    name: string
    file: string
    units: Units
    note: string
    printer: Printer | null
    /** Null for a lighter colour of each piece's own. */
    inside: Inside | null
    pieces: Piece[]
    steps: Step[]
    history: { undo: string | null; redo: string | null }
    run: Run | null
}

export interface ShelfEntry {
    id: number
    name: string
    note: string
    file: string
    units: Units
    changed: string
    pieces: number
    watertight: boolean
    too_large: number
    bytes: number
    removed: string | null
    /** The largest piece; of very many, the largest that was brought in. */
    largest: Piece | null
    /** Further ones, for the picture. */
    beside: Pick<Piece, 'mesh' | 'colour' | 'carries'>[]
    /** Of all of them. */
    size: Vector | null
    volume: number
}

export interface Upload {
    id: string
    file: string
    report: {
        format: string
        collapsed: number
        parts: number
        states_unit: boolean
        /** A few triangles for a small picture, base64. */
        sketch: string
        /** What the file carries besides shapes, and what of it is not read. */
        carries: string[]
        left_out: string[]
        triangles: number
        vertices: number
        shells: number
        size_mm: Vector
        volume_mm3: number
        watertight: boolean
        faults: Faults & { doubled_faces: number; sliver_faces: number }
    }
}

export interface PieceSection {
    piece: number
    cuts: boolean
    outlines: [number, number][][]
    lines: [number, number][][]
}

export interface SectionAnswer {
    area: number
    perimeter: number
    page: [Vector, Vector, Vector] | null
    pieces: PieceSection[]
}

export interface BladeQuestion {
    through: Vector
    facing: Vector
    pieces: number[] | null
}

export type Wander = Required<WanderStep['blade']['wander']>

/** The stops of a series, as the recipe writes them. */
export type SeriesSettings = Omit<Any<(SeriesStep | WanderStep)['blade']>, 'kind' | 'facing' | 'wander'> & { wander?: Wander }

/** What is set on the card of a blade. */
export interface CutSettings extends BladeQuestion {
    keep: Keep
    seal: Seal
    edge_mm: number | null
    kerf: number
    kerf_side: KerfSide
    catch: number
    score: boolean
    faces: number[] | null
    series: SeriesSettings | null
}

export interface Side {
    volume: number
    size: Vector
    fit: Fit | null
}

export interface SidesAnswer {
    behind: Side | null
    ahead: Side | null
    narrowest: number | null
    caught: number
}

export interface ProfileAnswer {
    low: number
    high: number
    positions: number[]
    areas: number[]
    outlines: number[]
    good: number[]
}

export interface WidthsAnswer {
    thin_mm: number
    positions: number[]
    widths: (number | null)[]
    bad: [number, number][]
}

export interface StopsAnswer {
    stops: number[]
    low: number
    high: number
    slabs: { from: number; to: number; extent: number; over: number }[]
    pieces: { piece: number; planes: { facing: Vector; offset: number }[] }[]
}

export type Mend = SingleMendStep['only']

export interface AllFaults extends Faults {
    doubled_faces: number
    sliver_faces: number
    crossing_faces: number | null
    inner_faces: number | null
}

export interface CheckCounts {
    counts: AllFaults
    notes: { rims: number; cavities: number; handles: number | null; inverted_shells: number; near_vertices: number; isolated_vertices: number }
    sound: boolean
}

export interface CheckReport extends CheckCounts {
    rims: { length_mm: number; edges: number; closed: boolean; points: number[] }[]
    lines: Record<string, number[]>
    triangles: Record<string, number[]>
    points: Record<string, number[]>
}

export interface MendReport {
    triangles: number
    watertight: boolean
    volume_mm3: number
    faults: AllFaults
}

/** How large all of it is once it is turned, and how many of the pieces fit the printer then. */
export interface PlaceForecast {
    size: Vector
    pieces: number
    /** Null without a printer. */
    fits: number | null
    over_mm: number
}

/** How a piece stands with a face of its hull below. */
export interface Standing {
    /** What lies below. */
    facing: Vector
    /** Area that its supports span. */
    footprint_mm2: number
    /** Degrees by which it can be tilted before it falls; less than 0 when it falls as it stands. */
    margin: number
    height_mm: number
    /** Skin that looks down more steeply than 45° and is not on the bed. */
    overhang_mm2: number
}

/** How pieces stand once they are laid down. */
export interface LayForecast {
    /** By how much each is too large for the printer then; 0 when it fits, null without a printer. */
    pieces: (Standing & { name: string; over_mm: number | null })[]
    /** Not closed, or flat: not looked at. */
    open: string[]
    /** Of a piece alone, the faces on which it can stand, the best first. */
    faces: Standing[]
    /** And where it comes to: 12 numbers, the three axes and the origin. */
    map: number[]
    /** Room below the skin that hangs over then, mm³: what supports would fill. Null when it is not known. */
    below_mm3: number | null
    /** Of a piece alone that is too large then: whether it fits the printer in any turn at all. */
    turned: {
        fits: boolean
        /** With the best turn that was found. */
        over_mm: number
        /** In whatever turn; 0 when that is not known. */
        least_mm: number
        /** The turn. */
        about: Vector
        degrees: number
    } | null
}

/** Which pieces overlap or touch face to face, by name, and how much there will be of what the step is about. */
export interface CombineForecast {
    pairs: { one: string; other: string; common_mm3: number; contact_mm2: number }[]
    /** Not closed, so not looked at. */
    open: string[]
    /** Of what is united, is taken out, or is common. */
    volume_mm3: number
    /** Where pieces meet: 32-bit floats, 9 a triangle; empty where there are too many. */
    surface: string
}

/** The pegs of a face that two pieces share. */
export interface PegsOfFace {
    between: [string, string]
    area_mm2: number
    pegs: { at: Vector; along: Vector; shape: string; diameter_mm: number; length_mm: number }[]
    /** In how many ways it goes together; 0 when it turns freely. */
    ways: number
    /** Why there are none, or fewer than asked for. */
    why: string | null
    /** The face as it is seen from the first piece, on its page; of the first faces only. Rims are four numbers a line, pegs two a corner, mm. */
    drawing: { right: Vector; up: Vector; rims: number[]; pegs: number[][] } | null
}

/** The mark of a face that two pieces share. */
export interface MarkOfFace {
    between: [string, string]
    area_mm2: number
    number: number
    arrow: boolean
    /** Height of the signs; 0 where there is no room. */
    size_mm: number
    why: string | null
}

/** What will be on faces that pieces share. */
export interface JoinForecast<Face> {
    faces: Face[]
    /** Not closed, so not looked at. */
    open: string[]
    /** Edges of what will be there: 32-bit floats, 6 a line. */
    lines: string
}

/** What a plan costs, in pieces' worth. */
export interface PlanTerms {
    pieces: number
    /** Of the sections, by the bed. */
    area: number
    /** More than one in a section. */
    outlines: number
    thin: number
    /** Cut faces without room for a peg. */
    pegs: number
    leftovers: number
    tilt: number
    /** Counts in favour. */
    symmetry: number
    supports: number
}

/** Cuts after which every piece fits the printer. */
export interface PlanAlternative {
    cost: number
    terms: PlanTerms
    /** In the order in which they are made; of each the outlines of its section. */
    cuts: { of: string; through: Vector; facing: Vector; outlines: Vector[][] }[]
    pieces: { name: string; size_mm: Vector; volume_mm3: number; over_mm: number; turn: { axis: Vector; degrees: number } }[]
    /** The cuts as a recipe has them. */
    steps: StepSettings[]
}

/** How many meshes were looked at; how they fit is told with the pieces then. */
export interface FitsAnswer {
    looked_at: number
}

export interface PlanAnswer {
    /** Pieces that are needed, whatever is cut. */
    least: number
    /** Clearly different ones, the cheapest first. */
    alternatives: PlanAlternative[]
}

/** Pieces that were packed: where each lies on its bed, whose corner is the origin. */
export interface PlatesAnswer {
    /** Three sides; of a round bed the diameter as a fourth number. */
    bed: number[]
    plates: Placing[][]
}

/** A copy of a piece as it lies on a plate. */
export interface Placing {
    piece: string
    /** From 1. */
    copy: number
    mesh: string
    /** 12 numbers: where the three axes come to, then the origin. */
    pose: number[]
    /** Does it stand by itself? */
    stable: boolean
}

export interface LaidPlate {
    /** It stays as it is when pieces are packed again. */
    locked: boolean
    pieces: Placing[]
}

export interface PlateSettings {
    margin: number
    spacing: number
    turned: boolean
    /** Degrees that pieces are turned by; 0 for freely. */
    step: number
    copies: { piece: number; count: number }[]
}

export interface KeptPlates {
    /** Whoever changes them says which ones were seen. */
    version: number
    settings: PlateSettings | null
    plates: LaidPlate[]
}

/** What is wrong with pieces on plates; they are told by their places in the list of their plate. */
export interface Crowding {
    near: { pieces: [number, number]; mm: number; at: [number, number] }[]
    beyond: { piece: number; mm: number }[]
    /** Around each as seen from above: from x, from y, to x, to y. */
    boxes: [number, number, number, number][]
}

export interface CrowdingAnswer {
    plates: Crowding[]
}

/** Why the simulated printer refuses a plate. */
export interface Trouble {
    what: 'beyond' | 'near' | 'open' | 'air' | 'thin'
    pieces: string[]
    at: Vector
    mm: number
    /** In a sentence. */
    said: string
}

/** What comes before the outlines of a plate's layers. */
export interface LayersHeader {
    seconds: number
    grams: number
    layer: number
    troubles: Trouble[]
    pieces: { name: string; seconds: number; grams: number; supports_g: number; layers: number; overhang_mm2: number; below_mm3: number }[]
    layers: { at: number; area: number; seconds: number; outlines: number }[]
}

/** A plate that the simulated printer was given. */
export interface PlatePrint {
    id: number
    title: string
    printer: string
    state: 'waiting' | 'printing' | 'done' | 'stopped'
    share: number
    layer: number
    layers: number
    seconds: number
    grams: number
    /** Seconds of the clock. */
    left: number
}

export interface SheetAnswer {
    /** In the order of putting together. */
    steps: { pieces: string[]; onto: string[]; along: Vector | null; apart: boolean; blocked: boolean }[]
    joints: { between: [string, string]; area_mm2: number; pegs: number }[]
    prints: { seconds: number; grams: number; pieces: { piece: string; copy: number; seconds: number; grams: number }[] }[]
}

/** A zip that was made. */
export interface FilesAnswer {
    url: string
    name: string
    bytes: number
}

export interface MendPreview {
    did: Record<string, number>
    before: MendReport
    after: MendReport
    removed: number
    added: number
    removed_faces: number[]
    added_faces: number[]
}

export interface Said {
    said: string
    project: Project
}

/** How pieces move, as movement.json has it. */
export interface Movement {
    isotome_movement: 1
    fps: number
    frames: number
    layers: MovementLayer[]
}

/** A layer of a movement: what it does and its settings, of which those that are left out are as the server has them. */
export interface MovementLayer {
    do: 'spread' | 'wave' | 'scatter' | 'keys' | 'drop'
    of?: string[]
    off?: boolean
    [setting: string]: unknown
}

export interface KeptMovement {
    version: number
    movement: Movement | null
}
