import type { Course, OfferingPattern, Part, Season } from '@ridgeway/core'

/**
 * The catalog of Larkmoor College, all invented. One course a line:
 * code | title | credits | parts | offered | prerequisite | attributes | extra | description
 * parts: l lecture, L lab, t tutorial; offered: F S U, `F/odd` for odd years; extra: `with …` corequisite, `not …` exclusion,
 * `same …` equivalent, `fee N`, `repeat N`.
 */
const TABLE = `
HYD 110 | Water and Landscape | 4 | lL | F S | | Places | fee 35 | How water shapes an upland, from the raindrop to the river mouth.
HYD 115 | Rivers and People | 3 | l | F S | | Voices Places | | Settlements, mills and quarrels along four upland rivers.
HYD 120 | Water Careers Seminar | 1 | l | F S | | | | Guests from the trade and a first professional portfolio.
HYD 210 | Runoff and Streamflow | 4 | lL | F | HYD 110 with C and MTH 140 with C- | | fee 35 | Rainfall, runoff and the stream hydrograph, measured and computed.
HYD 220 | Snow and Ice | 3 | l | S | HYD 110 with C | Evidence | | Snowpack, melt and what both mean for the summer.
HYD 230 | Groundwater | 4 | lL | S | HYD 110 with C and CHY 110 with C | | fee 40 | Wells, aquifers and the slow water under the hill.
HYD 240 | Water Law and Policy | 3 | l | F | HYD 110 | Voices | | Who may use water, and who decides.
HYD 310 | Watershed Modelling | 3 | l | F | HYD 210 with C and STT 201 with C- | | | Building and testing models of a catchment.
HYD 320 | Stream Restoration | 3 | l | S/even | HYD 210 with C | Making | | Designing work in a living channel.
HYD 330 | Water Quality | 3 | lL | S | HYD 210 with C and CHY 220 with C | | fee 60 | Sampling, chemistry and judgement of natural waters.
HYD 340 | Flood Hazards | 3 | l | F | HYD 210 with C | Evidence | | Frequency, forecast and what to tell the valley.
HYD 350 | Irrigation and Drainage | 3 | l | S | HYD 210 with C and SOL 201 with C- | | | Moving water onto land and off it.
HYD 410 | River Works | 3 | l | F | HYD 310 with C | Making | | Weirs, bank works and fish passes, from sketch to permit.
HYD 420 | Advanced Groundwater | 3 | l | F/odd | HYD 230 with C and MTH 150 with C- | | | Flow and transport in the ground.
HYD 450 | Topics in Watershed Science | 3 | l | F S | 6 credits in HYD at 200+ | | repeat 2 | A different subject each term.
HYD 490 | Watershed Capstone | 4 | l | S | HYD 330 with C and HYD 410 with C | Making | | One catchment, one client, one report.
GSP 110 | Maps and Meaning | 3 | l | F S | | Places | | Reading maps critically, and drawing honest ones.
GSP 120 | Geospatial Basics | 3 | l | F S | | Numbers | | Coordinates, projections and first maps.
GSP 140 | Field Mapping | 4 | lL | F S | GSP 120 with C- | | fee 45 | Surveying and mapping with instruments, outdoors.
GSP 210 | Spatial Databases | 3 | l | S | GSP 120 with C | | | Storing and asking questions of places.
GSP 240 | Terrain Analysis | 3 | l | F | GSP 140 with C | Evidence | | Slopes, basins and sight lines from elevation.
GSP 260 | Drone Survey | 3 | lL | S U | GSP 140 with C | Making | fee 80 | Planning, flying and processing a survey.
GSP 310 | Geospatial Programming | 3 | l | F | GSP 210 with C | | | Scripts that make maps.
GSP 330 | Imagery and Remote Sensing | 3 | l | F S | GSP 240 with C or GSP 210 with C | Evidence | | What a picture from above can and cannot tell.
GSP 350 | Web Mapping | 3 | l | S | GSP 210 with C | Making | | Maps that other people use.
GSP 410 | Spatial Statistics | 3 | l | S/odd | GSP 210 with C and STT 201 with C | | | Pattern, chance and place.
ECL 110 | Living Uplands | 3 | l | F S | | Evidence Places | | Plants and animals between valley and ridge.
ECL 115 | Birds of the Ridge | 3 | l | S U | | Evidence | fee 20 | Identification, song and census.
ECL 210 | Ecology | 3 | l | F S | ECL 110 or HYD 110 | Evidence | | Populations, communities and energy.
ECL 220 | Plant Identification | 3 | lL | U F | ECL 110 | | fee 25 | Two hundred plants by leaf, flower and habit.
ECL 310 | Freshwater Ecology | 3 | lL | F | ECL 210 with C | | fee 45 | Life in streams and tarns.
ECL 320 | Peatlands | 3 | l | S | ECL 210 with C | | | Formation, carbon and repair of peat.
ECL 330 | Wildlife and Roads | 3 | l | F/even | ECL 210 with C | | | Movement, barriers and crossings.
ECL 340 | Fire Ecology | 3 | l | S | ECL 210 with C- | | | Fire as weather, tool and hazard.
ECL 420 | Restoration Ecology | 3 | l | S | ECL 310 with C or ECL 320 with C | Making | | Putting a place back on its feet.
SOL 110 | Ground Beneath | 3 | l | F S | | Evidence | | What soil is and why it matters.
SOL 201 | Soils | 4 | lL | S | CHY 110 with C- | | fee 35 | Formation, description and properties of soil.
SOL 250 | Soil Field Description | 2 | l | F | SOL 201 with C- | | | Pits, horizons and clear notes.
SOL 310 | Soil Physics | 3 | l | F | SOL 201 with C and MTH 140 with C | | | Water, heat and air in the soil.
SOL 320 | Soil Chemistry | 3 | l | S | SOL 201 with C and CHY 120 with C | | | Exchange, acidity and nutrients.
SOL 340 | Erosion and Slopes | 3 | l | S | SOL 201 with C | | | Why hillsides move and how to keep them.
TIM 110 | Trees and Timber | 3 | l | F S | | Places | | From seed to sawn board.
TIM 120 | Tool and Workshop Safety | 3 | lL | F S | | | fee 50 | Hand tools, machines and habits that keep fingers.
TIM 150 | Timber Craft | 3 | lL | F S | TIM 120 with C- | Making | fee 65 | Joints and frames by hand.
TIM 210 | Wood Structure | 3 | l | F | TIM 110 with C- | | | What wood is made of and how it behaves.
TIM 230 | Timber Frames | 3 | lL | S | TIM 150 with C | Making | fee 70 | Raising a frame as a crew.
TIM 310 | Timber Mechanics | 3 | l | F | PHX 140 with C and TIM 210 with C | | | Strength, stiffness and safety of timber.
TIM 330 | Bridges and Boardwalks | 3 | l | S | TIM 310 with C | Making | | Light structures for trails and streams.
HRT 110 | Upland Histories | 3 | l | F S | | Voices Places | | Four centuries of people and hills.
HRT 130 | Oral History | 3 | l | F S | | Voices | | Asking, listening and keeping what was said.
HRT 150 | Craft and Memory | 3 | l | S | | Making | | Objects as sources.
HRT 210 | Archives and Records | 3 | l | F | HRT 110 | Evidence | | Finding and weighing papers.
HRT 230 | Song and Story | 3 | l | S | | Voices | | The upland's spoken and sung tradition.
HRT 250 | Reading Buildings | 3 | l | F | | Places Making | | What barns, mills and chapels tell.
HRT 310 | Heritage and Community | 3 | l | S | HRT 110 with C | Voices | partner | Projects with a village, for a village.
HRT 330 | Museums Practice | 3 | l | F | HRT 210 with C | Making | partner | Care, display and argument.
FLD 110 | Outdoor First Response | 2 | l | F S | | | fee 40 | First aid, weather and calling for help.
FLD 120 | Trail Planning and Upkeep | 3 | l | F S | | Making | partner | Laying out a trail that lasts.
FLD 210 | Navigation | 2 | l | F S | FLD 110 | | field | Map, compass and judgement in poor visibility.
FLD 220 | Winter Travel | 2 | l | S | FLD 110 with C | | field fee 60 | Moving safely on snow and ice.
FLD 240 | Crew Leadership | 2 | l | F S | FLD 120 with C- | Voices | field partner | Leading a work crew outdoors.
FLD 260 | Summer Field Camp | 4 | l | U | HYD 110 with C and FLD 110 | | field fee 240 | Four weeks of measurement at High Station.
FLD 310 | Snow Survey | 2 | lL | S | HYD 210 with C | | field fee 45 | A season's snowpack, measured weekly.
FLD 320 | Stream Survey | 2 | l | F | HYD 210 with C | | field | Cross sections, flow and bed material.
FLD 330 | Monitoring Seminar | 2 | l | F S | 8 credits in HYD | | | Designing a long record.
FLD 340 | River Stewardship Seminar | 2 | l | S | HYD 110 | Voices | partner | Working with a river trust.
FLD 350 | Hazard Seminar | 2 | l | F S | FLD 110 and standing sophomore | | field | Case studies of days that went wrong.
MTH 095 | Working Algebra | 3 | l | F S | | | | Algebra needed for college mathematics.
MTH 110 | Mathematics in Use | 3 | l | F S | | Numbers | | Rates, money, risk and measurement.
MTH 120 | Functions | 3 | l | F S | MTH 095 with C- or placement MTH at least 40 | Numbers | | Linear, exponential and periodic functions.
MTH 140 | Calculus I | 4 | lt | F S | MTH 120 with C- or placement MTH at least 60 | Numbers | | Limits, derivatives and first integrals.
MTH 150 | Calculus II | 4 | lt | F S | MTH 140 with C- | Numbers | | Integration, series and first differential equations.
MTH 220 | Linear Algebra | 3 | l | F | MTH 140 with C | Numbers | | Vectors, matrices and what they do.
MTH 240 | Differential Equations | 3 | l | S | MTH 150 with C | | | Change, modelled.
STT 110 | Data and Doubt | 3 | l | F S | | Numbers Evidence | | What numbers in the news can bear.
STT 201 | Statistics I | 3 | l | F S | MTH 110 or MTH 120 or MTH 140 or placement MTH at least 50 | Numbers | not STT 205 | Description, inference and honest error.
STT 205 | Statistics for Crafts | 3 | l | F | MTH 110 | Numbers | not STT 201 | Quality, tolerance and sampling.
STT 301 | Regression | 3 | l | S | STT 201 with C | Evidence | | Lines through clouds, carefully.
STT 310 | Sampling and Surveys | 3 | l | F | STT 201 with C | Evidence | | Asking few, saying something of many.
STT 340 | Environmental Time Series | 3 | l | S/odd | STT 301 with C | | | Seasons, trends and memory.
CHY 110 | Chemistry I | 4 | lL | F S | MTH 095 with C- or placement MTH at least 40 | Evidence | fee 45 | Matter, bonds and reactions.
CHY 120 | Chemistry II | 4 | lL | F S | CHY 110 with C- | Evidence | fee 45 | Equilibria, acids and rates.
CHY 220 | Aquatic Chemistry | 4 | lL | F | CHY 120 with C | | fee 55 | Natural waters as solutions.
CHY 310 | Environmental Analysis | 3 | l | S | CHY 220 with C | | with CHY 311 | Methods and their limits.
CHY 311 | Environmental Analysis Laboratory | 1 | L | S | CHY 120 with C | | with CHY 310 fee 75 | The bench work that goes with analysis.
PHX 110 | Everyday Physics | 3 | l | F S | | Evidence | not PHX 140 | Heat, light and motion without calculus.
PHX 140 | Mechanics | 4 | lL | F S | MTH 140 with C- or alongside | Evidence | not PHX 110 fee 35 | Motion, force and energy.
PHX 150 | Waves and Fields | 4 | lL | F S | PHX 140 with C- and MTH 150 with C- or alongside | | fee 35 | Oscillation, electricity and magnetism.
PHX 240 | Fluids | 4 | l | F | PHX 150 with C and MTH 150 with C | | | How fluids rest and flow.
WRT 110 | Writing I | 3 | l | F S | | | | Clear sentences, fair arguments.
WRT 210 | Writing Places | 3 | l | F S | WRT 110 with C- | | | Essays that begin with somewhere.
WRT 310 | Reports and Proposals | 3 | l | F S | WRT 210 with C- | Voices | | Writing that other people act on.
WRT 330 | Science for Readers | 3 | l | S | WRT 210 with C- | Voices | | Explaining without simplifying away.
LNG 101 | Language I | 3 | l | F S | | | | First steps in the upland language.
LNG 102 | Language II | 3 | l | S | LNG 101 with C- | | | More of it, aloud.
LNG 140 | Languages of the Upland | 3 | l | F S | | Voices | | How four languages share a valley.
LNG 210 | Language III | 3 | l | F | LNG 102 with C- | Voices | | Reading and conversation.
VAL 110 | Ethics | 3 | l | F S | | Voices | | Arguments about what we owe each other.
VAL 220 | Land Ethics | 3 | l | F S | WRT 110 with C- | Voices Places | | What we owe to places.
VAL 230 | Commons | 3 | l | S | | Voices | | Sharing pastures, water and air.
VAL 330 | Risk and Responsibility | 3 | l | S | standing junior | Voices | | Who may put whom at risk.
`

const PARTS: Record<string, Part> = { l: 'lecture', L: 'lab', t: 'tutorial' }
const SEASONS: Record<string, Season> = { F: 'fall', S: 'spring', U: 'summer' }

export const COURSES: Course[] = TABLE.trim().split('\n').map(readCourse)

function readCourse(line: string): Course {
  const [code, title, credits, parts, offered, prerequisite, attributes, extra, description] = line.split('|').map(cell => cell.trim()) as
    [string, string, string, string, string, string, string, string, string]
  const [subject, number] = code.split(' ') as [string, string]
  const option = (word: string) => extra.match(new RegExp(`${word} ([A-Z]{3} \\d{3}|\\d+)`))?.[1]
  const codes = (word: string) => option(word) ? [option(word)!] : []
  return {
    code, subject, number: Number(number), title, description, prerequisite,
    credits: Number(credits) * 100, creditsMax: Number(credits) * 100,
    attributes: [...attributes.split(' '), ...(/\bfield\b/.test(extra) ? ['Field-based'] : []), ...(/\bpartner\b/.test(extra) ? ['Community partner'] : [])].filter(Boolean),
    corequisite: option('with') ?? '', exclusions: codes('not'), equivalents: codes('same'),
    repeatLimit: Number(option('repeat') ?? 1), offered: readOffering(offered),
    parts: [...parts].map(letter => PARTS[letter]!), fee: Number(option('fee') ?? 0) * 100,
  }
}

function readOffering(text: string): OfferingPattern {
  const [letters, years] = text.split('/') as [string, 'odd' | 'even' | undefined]
  return { seasons: letters.trim().split(' ').map(letter => SEASONS[letter]!), ...(years ? { years } : {}) }
}
