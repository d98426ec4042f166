// What the server answers, address by address. From it come the schemas that the tests of the server hold every answer against (bin/generate).
import type {
    CellsForecast, CheckCounts, CheckReport, FilesAnswer, Material, MendPreview, MirrorForecast, Printer, ProfileAnswer, Project, Run, Said, SectionAnswer, ShelfEntry, SidesAnswer, Step, StopsAnswer,
    CombineForecast, DrawnForecast, SymmetryAnswer, PlaceForecast, LayForecast, JoinForecast, MarkOfFace, PegsOfFace, PlanAnswer, PlatesAnswer, FitsAnswer, KeptMovement, KeptPlates, CrowdingAnswer, SheetAnswer, PlatePrint, Upload, Vector, WidthsAnswer,
} from './types'

export interface Answers {
    'POST uploads': Upload
    'POST outlines': { lines: [number, number][][]; size: [number, number] }
    'GET printers': Printer[]
    'POST printers': Printer
    'PUT printers/{printer}': Printer
    'GET projects': ShelfEntry[]
    'POST projects': { id: number; run: Run }
    'GET projects/{project}': Project
    'PATCH projects/{project}': Project
    'PUT projects/{project}/inside-picture': Project
    'POST projects/{project}/meshes': Run
    'POST projects/{project}/duplicate': { id: number }
    'POST projects/{project}/section': SectionAnswer
    'POST projects/{project}/section/sides': SidesAnswer
    'POST projects/{project}/profile': ProfileAnswer
    'POST projects/{project}/profile/widths': WidthsAnswer
    'POST projects/{project}/profile/stops': StopsAnswer
    'POST projects/{project}/steps': Run
    'GET projects/{project}/steps/{step}': Step
    'PUT projects/{project}/steps/{step}': Run
    'POST projects/{project}/steps/foresee': CellsForecast | MirrorForecast | MendPreview | PlaceForecast | LayForecast | CombineForecast | DrawnForecast | JoinForecast<PegsOfFace> | JoinForecast<MarkOfFace> | Run
    'POST projects/{project}/symmetry': SymmetryAnswer | Run
    'POST projects/{project}/plan': PlanAnswer | Run
    'GET projects/{project}/plates': KeptPlates
    'PUT projects/{project}/plates': { version: number }
    'POST projects/{project}/plates': PlatesAnswer | Run
    'POST projects/{project}/plates/files': FilesAnswer | Run
    'POST projects/{project}/plates/crowding': CrowdingAnswer | Run
    'POST projects/{project}/plates/layers': FilesAnswer | Run
    'POST projects/{project}/sheet': SheetAnswer | Run
    'GET projects/{project}/movement': KeptMovement
    'PUT projects/{project}/movement': { version: number }
    'POST projects/{project}/movement/poses': FilesAnswer | Run
    'POST projects/{project}/movement/files': FilesAnswer | Run
    'GET projects/{project}/prints': PlatePrint[]
    'POST projects/{project}/prints': PlatePrint[]
    'DELETE projects/{project}/prints/{print}': PlatePrint[]
    'POST projects/{project}/fits': FitsAnswer | Run
    'GET projects/{project}/checks': Record<string, CheckCounts>
    'POST projects/{project}/checks': Run
    'PATCH projects/{project}/pieces': Project
    'POST projects/{project}/rejoin': Said
    'POST projects/{project}/undo': Said
    'POST projects/{project}/redo': Said
    'POST projects/{project}/recipe': Run
    'POST projects/{project}/exports': FilesAnswer | Run
    'GET meshes/{mesh}/materials': Material[]
    'GET meshes/{mesh}/materials/{material}/faces': { faces: number[] }
    'GET meshes/{mesh}/faces/{face}': { point: Vector; normal: Vector; region: number[] }
    'GET meshes/{mesh}/check': CheckReport
    'GET runs/{run}': Run
    'POST runs/{run}/cancel': Run
}
