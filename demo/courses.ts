import type { Course, OfferingPattern, Part, Season } from '@ridgeway/core/catalog'

/**
 * The catalog of Larkmoor College, all invented. One course a line:
 * code | title | credits | parts | offered | prerequisite | attributes | extra | description
 * credits: `3`, or `1-3` where they vary;
 * parts: l lecture, L lab, t tutorial; offered: F S U, `F/odd` for odd years, `F S until 2026SP` for one that was given up; extra: `with
 * …` corequisite, `not …` exclusion,
 * `same …` equivalent, `fee N`, `repeat N`.
 */
const TABLE = `
HYD 110 | Water and Landscape | 4 | lL | F S | | Places | fee 35 | How water shapes an upland, from the raindrop to the river mouth.
HYD 115 | Rivers and People | 3 | l | F S | | Voices Places | | Settlements, mills and quarrels along four upland rivers.
HYD 120 | Water Careers Seminar | 1 | l | F S | | | | Guests from the trade and a first professional portfolio.
HYD 210 | Runoff and Streamflow | 4 | lL | F | HYD 110 with C and MTH 140 with C- | | fee 35 | \
  Rainfall, runoff and the stream hydrograph, measured and computed.
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
GSP 330 | Imagery and Remote Sensing | 3 | l | F S | GSP 240 with C or GSP 210 with C | Evidence | | \
  What a picture from above can and cannot tell.
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
STT 201 | Statistics I | 3 | l | F S | MTH 110 or MTH 120 or MTH 140 or placement MTH at least 50 | Numbers | not STT 205 | \
  Description, inference and honest error.
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
PHX 150 | Waves and Fields | 4 | lL | F S | PHX 140 with C- and MTH 150 with C- or alongside | | fee 35 | \
  Oscillation, electricity and magnetism.
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
HYD 130 | Reading a River | 3 | l | F S | | Evidence Places | | What bars, banks and banksides say about the water.
HYD 150 | Water in the News | 3 | l | S | | Evidence | | Floods, droughts and the numbers people quote about them.
HYD 225 | Hillslope Hydrology | 3 | l | F | HYD 110 with C | Evidence | | The path of rain through soil and stone.
HYD 245 | Dams and Weirs | 3 | l | S | HYD 110 with C- | Places | | Old works in living rivers, and what to do with them.
HYD 260 | Field Methods in Hydrology | 2 | L | U F | HYD 110 with C | | field fee 60 | Gauging, sampling and keeping a notebook.
HYD 315 | Catchment Planning | 3 | l | S | HYD 210 with C | Voices | partner | One valley, many wishes, one plan.
HYD 325 | Ice and Avalanche | 3 | l | S/odd | HYD 220 with C | Evidence | | How snow fails, and how to live beside it.
HYD 345 | Drought | 3 | l | F/even | HYD 210 with C | | | Scarcity, measured and managed.
HYD 360 | Hydrometry Laboratory | 1 | L | F | HYD 210 with C | | fee 45 | Instruments, calibration and error.
HYD 430 | Transport in Rivers | 3 | l | S/even | HYD 310 with C and MTH 150 with C- | | | Sediment and solutes on the move.
HYD 440 | Urban Water | 3 | l | S | HYD 240 or HYD 340 with C- | Making | | Rain gardens, drains and what is in between.
HYD 460 | Directed Reading in Water | 1-3 | l | F S U | permission | | repeat 2 | A reading list agreed with one teacher.
HYD 480 | Watershed Internship | 1-6 | l | F S U | standing junior and permission | | partner | Work with a water body, reported.
GSP 130 | Navigation by Satellite | 2 | l | F S | | | | Positions, their errors and their uses.
GSP 150 | Map Drafting | 3 | l | F S until 2026SP | GSP 110 or GSP 120 | Making | | Drawing maps by hand and by rule.
GSP 220 | Map Projections | 2 | l | F | GSP 120 with C | Numbers | | Flattening a round world on purpose.
GSP 225 | Cartographic Design | 3 | l | F S | GSP 110 or GSP 120 | Making | not GSP 150 | Maps that are read as they were meant.
GSP 230 | Surveying | 4 | lL | F | MTH 120 with C- or MTH 140 with C- | Numbers | fee 60 | Levels, angles and closing the traverse.
GSP 270 | Field Data Collection | 3 | lL | F S | GSP 140 with C- | Evidence | field fee 55 | From the question to the clean table.
GSP 280 | Technician Project | 4 | l | S | GSP 210 with C and GSP 240 with C | Making | partner | A real job for a real client.
GSP 320 | Land Information | 3 | l | S | GSP 210 with C | | | Parcels, rights and registers.
GSP 340 | Laser Scanning | 3 | lL | F | GSP 240 with C | Making | fee 70 | Point clouds, from the forest to the file.
GSP 360 | Time and Place | 3 | l | F/odd | GSP 210 with C | Evidence | | Change over time on maps.
GSP 430 | Spatial Decision Studio | 3 | l | F | GSP 330 with C or GSP 350 with C | Making | partner | \
  Choosing sites with people who disagree.
GSP 460 | Directed Study in Geospatial | 1-3 | l | F S | permission | | repeat 2 | A question of one's own, with a supervisor.
ECL 120 | Gardens of the Ridge | 3 | l | S U | | Places Making | fee 20 | Growing at altitude, with hands in the soil.
ECL 130 | Insects | 3 | lL | F | | Evidence | fee 30 | The small majority.
ECL 230 | Mosses and Lichens | 2 | L | S | ECL 110 | Evidence | field | Slow plants, closely looked at.
ECL 240 | Upland Mammals | 3 | l | S | ECL 110 | Evidence | | Tracks, counts and cameras.
ECL 250 | Evolution | 3 | l | F | ECL 110 with C- | Evidence | | How variety comes about.
ECL 315 | Stream Insects | 2 | L | S | ECL 130 or ECL 210 with C | | field fee 35 | Naming what lives under the stones.
ECL 325 | Grazing | 3 | l | F | ECL 210 with C | Voices | | Sheep, deer and the shape of the hill.
ECL 350 | Quantitative Ecology | 3 | l | F | ECL 210 with C and STT 201 with C- | Numbers | | Populations on paper and in the field.
ECL 360 | Invasive Species | 3 | l | S/odd | ECL 210 with C | Evidence | | Arrivals, and what they change.
ECL 410 | Landscape Ecology | 3 | l | F | ECL 210 with C and GSP 120 with C- | | | Pattern and process over whole valleys.
ECL 450 | Topics in Ecology | 3 | l | F S | ECL 210 with C | | repeat 2 | A different subject each term.
ECL 490 | Ecology Capstone | 4 | l | S | ECL 310 with C and ECL 350 with C | Making | | One habitat, understood.
SOL 120 | Stones and Time | 3 | l | F S | | Evidence Places | | The upland's rocks and how old they are.
SOL 130 | Compost | 2 | l | S U | | Making | | Making soil on purpose.
SOL 220 | Geology of the Upland | 4 | lL | F | SOL 110 or SOL 120 | Evidence | field fee 50 | Reading strata on foot.
SOL 260 | Soil Survey | 3 | lL | U | SOL 201 with C | | field fee 90 | Mapping soils for a whole estate.
SOL 330 | Soil Biology | 3 | l | F | SOL 201 with C and ECL 210 with C- | Evidence | | The living ground.
SOL 350 | Rock Slopes | 3 | l | S/even | SOL 220 with C and PHX 140 with C | | | Stability, reading it and improving it.
SOL 410 | Land Restoration | 3 | l | F | SOL 320 with C or SOL 330 with C | Making | partner | Bringing worn ground back.
SOL 460 | Directed Study in Soils | 1-3 | l | F S | permission | | repeat 2 | A question of one's own, with a supervisor.
TIM 130 | Green Woodwork | 2 | L | S U | | Making | fee 45 | From the log, without electricity.
TIM 140 | Drawing for Builders | 3 | l | F S | | Making | | Plans, sections and details that can be built.
TIM 220 | Saws and Sawmills | 3 | lL | F | TIM 120 with C- | | fee 60 | Logs into boards, safely and with little waste.
TIM 240 | Glues and Composites | 3 | lL | S | TIM 210 with C and CHY 110 with C- | | fee 55 | What holds wood together.
TIM 250 | Drying and Keeping Wood | 3 | l | S | TIM 210 with C- | | | Moisture, movement and decay.
TIM 260 | Joinery | 3 | lL | F | TIM 150 with C | Making | fee 70 | Doors, windows and stairs.
TIM 340 | Timber Connections | 3 | l | S | TIM 310 with C | | | Pegs, plates and screws, calculated.
TIM 350 | Structural Analysis | 4 | lt | F | PHX 140 with C and MTH 150 with C | | | Forces and movements in frames.
TIM 360 | Boats and Carts | 3 | lL | S | TIM 260 with C | Making | fee 85 | Curved work that carries loads.
TIM 410 | Timber Design Studio | 4 | l | F | TIM 340 with C and TIM 350 with C | Making | | A building on paper, to the last screw.
TIM 420 | Fire and Timber | 3 | l | S | TIM 310 with C | Evidence | | Char, time and codes.
TIM 430 | Tall Frames | 3 | l | S | TIM 350 with C | | | Timber beyond four floors.
TIM 440 | Bridges in Use | 3 | l | S/odd | TIM 330 with C and TIM 350 with C | | | Inspecting, rating and mending.
TIM 445 | Vibrations of Floors | 3 | l | S/even | TIM 350 with C and MTH 240 with C- | | | Why some floors bounce.
TIM 450 | Workshop Management | 3 | l | F | TIM 260 with C or TIM 230 with C | Voices | | People, orders and machines.
TIM 480 | Timber Internship | 1-6 | l | F S U | standing junior and permission | | partner | Work in a yard or an office, reported.
TIM 490 | Timber Capstone | 4 | l | S | TIM 410 with C | Making | | One structure, designed and built at scale.
HRT 120 | Place Names | 3 | l | F S | | Voices Places | | What the map remembers.
HRT 140 | Walls and Ways | 3 | l | F | | Places Making | field | Dry stone, drove roads and boundaries.
HRT 220 | Maps as Sources | 3 | l | S | HRT 110 or GSP 110 | Evidence | | Old maps, read against the ground.
HRT 240 | Community Memory | 3 | l | F | HRT 130 with C- | Voices | partner | Recording with people, not about them.
HRT 320 | Paper and Conservation | 3 | lL | S | HRT 210 with C | Making | fee 60 | Keeping documents for a century more.
HRT 340 | Estates and Commons | 3 | l | F | HRT 210 with C | Evidence Places | | Who held the land, and by what right.
HRT 350 | Digital Archives | 3 | l | S | HRT 210 with C | Numbers | | Describing, scanning and finding.
HRT 360 | Vernacular Building | 3 | l | F | HRT 250 with C | Making | | How ordinary buildings were made.
HRT 370 | Measured Survey | 3 | lL | S | HRT 250 with C | Evidence | field fee 40 | Drawing a building as it is.
HRT 380 | Radio and Sound | 3 | l | S | HRT 130 with C | Making | fee 45 | Stories for ears.
HRT 410 | Heritage Law | 3 | l | F | HRT 310 with C | Voices | | Protection, ownership and return.
HRT 420 | Difficult Histories | 3 | l | S | HRT 210 with C | Voices | | Clearance, enclosure and silence.
HRT 480 | Heritage Placement | 1-6 | l | F S U | standing junior and permission | | partner | \
  Work in a museum, archive or village, reported.
HRT 490 | Heritage Thesis | 6 | l | F S | HRT 330 with C and standing senior | Making | | One question, answered at length.
FLD 130 | Hill Weather | 2 | l | F S | | Evidence | | Reading the sky before it reads you.
FLD 140 | Ropes and Knots | 1 | L | F S | | | fee 25 | Twelve knots and when to trust them.
FLD 230 | Chainsaw and Clearing | 2 | L | F S | FLD 110 and TIM 120 with C- | | field fee 120 | Felling small, safely.
FLD 250 | Boat and Bank Safety | 2 | L | U F | FLD 110 | | field fee 95 | Working in and beside moving water.
FLD 270 | Guiding Groups | 2 | l | S | FLD 210 with C- | Voices | field | Taking others where they would not go alone.
FLD 360 | Risk Assessment | 2 | l | F S | FLD 110 with C | Evidence | | Writing down what may go wrong, usefully.
FLD 410 | Expedition | 4 | L | U | FLD 210 with C and FLD 240 with C | | field fee 380 | Two weeks out, planned by those who go.
MTH 130 | Mathematics of Building | 3 | l | F | MTH 095 with C- or placement MTH at least 40 | Numbers | | \
  Areas, loads and slopes for people who make things.
MTH 210 | Discrete Structures | 3 | l | S | MTH 120 with C or MTH 140 with C- | Numbers | | Graphs, counting and proof.
MTH 250 | Calculus III | 4 | lt | F | MTH 150 with C- | Numbers | | Surfaces, fields and flow.
MTH 310 | Numerical Methods | 3 | l | S | MTH 220 with C and MTH 240 with C- | | | Answers that are near enough, and how near.
MTH 320 | Probability | 3 | l | F | MTH 150 with C | Numbers | | Chance, made precise.
MTH 410 | Partial Differential Equations | 3 | l | S/even | MTH 240 with C and MTH 250 with C | | | Heat, waves and seepage.
STT 120 | Counting Nature | 3 | l | F S | | Numbers Evidence | | Samples, censuses and honest guesses.
STT 210 | Statistical Computing | 3 | l | S | STT 201 with C | Numbers | | Data in, picture out, and everything between.
STT 320 | Designed Experiments | 3 | l | F | STT 201 with C | Evidence | | Asking nature a fair question.
STT 350 | Spatial Data Analysis | 3 | l | F/even | STT 301 with C | | | Neighbours are not independent.
STT 360 | Extremes | 3 | l | S/even | STT 301 with C and MTH 150 with C- | | | The flood that has not come yet.
STT 410 | Bayesian Thinking | 3 | l | S | STT 301 with C and MTH 320 with C | | | Learning from little.
STT 450 | Statistics Consulting | 2 | l | F S | STT 301 with C and standing junior | Making | partner repeat 2 | \
  Other people's questions, by Friday.
CHY 105 | Chemistry of Everyday | 3 | l | F S | | Evidence | not CHY 110 | Kitchens, paints and rivers, without calculus.
CHY 210 | Organic Chemistry | 4 | lL | S | CHY 120 with C | | fee 55 | Carbon and its company.
CHY 230 | Wood Chemistry | 3 | l | F | CHY 120 with C | | | Cellulose, lignin and what they become.
CHY 320 | Isotopes in Nature | 3 | l | F/odd | CHY 220 with C | Evidence | | Dating and tracing water and soil.
PHX 120 | Sky and Seasons | 3 | l | F S | | Evidence | | The upland's night sky, and its days.
PHX 210 | Heat and Buildings | 3 | l | S | PHX 110 with C or PHX 140 with C- | Numbers | | Why some rooms are cold.
PHX 220 | Electronics for Field Work | 3 | lL | F | PHX 110 with C- or PHX 140 with C- | Making | fee 65 | \
  Loggers and sensors that survive the winter.
PHX 310 | Solid Mechanics | 3 | l | S | PHX 140 with C and MTH 240 with C- | | | Stress, strain and failure.
WRT 120 | Speaking Up | 3 | l | F S | | Voices | | Talks, meetings and the fear of both.
WRT 220 | Writing Science | 3 | l | F S | WRT 110 with C- | Evidence | | Reports that can be checked.
WRT 230 | Nature Essay | 3 | l | F | WRT 110 with C- | Places | | Looking long, writing short.
WRT 320 | Editing | 3 | l | S | WRT 210 with C | Making | | Other people's sentences, improved.
WRT 340 | Grant Writing | 3 | l | F | WRT 210 with C- and standing junior | Making | partner | Asking for money, clearly.
WRT 410 | Book Workshop | 3 | l | S/odd | WRT 230 with C or WRT 320 with C | Making | | A manuscript by the last week.
LNG 111 | Northern Tongue I | 3 | l | F | | | | The neighbour's language, from the start.
LNG 112 | Northern Tongue II | 3 | l | S | LNG 111 with C- | | | More of it, with songs.
LNG 211 | Northern Tongue III | 3 | l | F | LNG 112 with C- | Voices | | Newspapers, letters and talk.
LNG 220 | Language IV | 3 | l | S | LNG 210 with C- | Voices | | The upland language, nearly at home.
LNG 221 | Northern Tongue IV | 3 | l | S | LNG 211 with C- | Voices | | Literature and long conversations.
LNG 310 | Translation | 3 | l | F | LNG 220 with C or LNG 221 with C | Making | | Carrying meaning over the hill.
LNG 330 | Dialects | 3 | l | S | LNG 140 or LNG 220 with C- | Evidence | | Why the next valley says it otherwise.
VAL 120 | Thinking Straight | 3 | l | F S | | Evidence | | Arguments, good and bad.
VAL 210 | Work and Dignity | 3 | l | F | | Voices | | What work is for.
VAL 240 | Animals and Us | 3 | l | S | | Voices | | Farm, wild and company.
VAL 310 | Environmental Justice | 3 | l | F | VAL 110 or VAL 220 | Voices | | Who bears what.
VAL 340 | Stewardship | 3 | l | S | VAL 220 with C- | Voices Places | | Caring for what outlives us.
VAL 410 | Ethics Seminar | 3 | l | S | VAL 310 with C or VAL 330 with C | Voices | | One hard book, slowly.
`

const PARTS: Record<string, Part> = { l: 'lecture', L: 'lab', t: 'tutorial' }
const SEASONS: Record<string, Season> = { F: 'fall', S: 'spring', U: 'summer' }

export const COURSES: Course[] = TABLE.trim().split('\n').map(readCourse)

function readCourse(line: string): Course {
  const [code, title, credits, parts, offered, prerequisite, attributes, extra, description] = line.split('|').map(cell => cell.trim()) as [
    string,
    string,
    string,
    string,
    string,
    string,
    string,
    string,
    string,
  ]
  const [subject, number] = code.split(' ') as [string, string]
  const option = (word: string) => extra.match(new RegExp(`${word} ([A-Z]{3} \\d{3}|\\d+)`))?.[1]
  const codes = (word: string) => option(word) ? [option(word)!] : []
  return {
    code,
    subject,
    number: Number(number),
    title,
    description,
    prerequisite,
    credits: Number(credits.split('-')[0]) * 100,
    creditsMax: Number(credits.split('-').at(-1)) * 100,
    attributes: [...attributes.split(' '), ...(/\bfield\b/.test(extra) ? ['Field-based'] : []),
      ...(/\bpartner\b/.test(extra) ? ['Community partner'] : [])].filter(Boolean),
    corequisite: option('with') ?? '',
    exclusions: codes('not'),
    equivalents: codes('same'),
    repeatLimit: Number(option('repeat') ?? 1),
    offered: readOffering(offered),
    parts: [...parts].map(letter => PARTS[letter]!),
    fee: Number(option('fee') ?? 0) * 100,
  }
}

function readOffering(text: string): OfferingPattern {
  const [pattern, until] = text.split(' until ') as [string, string | undefined]
  const [letters, years] = pattern.split('/') as [string, 'odd' | 'even' | undefined]
  return { ...(until ? { until } : {}), seasons: letters.trim().split(' ').map(letter => SEASONS[letter]!), ...(years ? { years } : {}) }
}
