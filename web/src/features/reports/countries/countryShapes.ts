import { geoEqualEarth, geoPath } from 'd3-geo'
import type { FeatureCollection } from 'geojson'
import isoCodes from 'i18n-iso-countries/codes.json'
import { feature } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'
import world from 'world-atlas/countries-110m.json'

/** How large the map is drawn, in its own units. */
export const mapSize = { width: 560, height: 272 }

export interface CountryShape {
  /** Two letters (ISO 3166-1, and XK as clicks tell it); undefined where the land has none. */
  code: string | undefined
  /** Its outline as the path of an SVG. */
  path: string
}

/** Letters by the three digits that the atlas goes by. */
const lettersOf = new Map(isoCodes.map(([letters, , digits]) => [digits!, letters!]))

const withoutDigits = new Map([['Kosovo', 'XK']])

const antarctica = 'AQ'

/** The land of the world (Natural Earth, 1:110 million, public domain), where nobody clicks left out; shapes of the smallest countries are not in it. */
export const countryShapes: readonly CountryShape[] = shapesOf(world as unknown as Topology)

function shapesOf(atlas: Topology): CountryShape[] {
  const all = feature(atlas, atlas.objects.countries as GeometryCollection<{ name: string }>).features
  const lands = all
    .map((land) => ({
      land,
      code: lettersOf.get(String(land.id)) ?? withoutDigits.get(land.properties.name),
    }))
    .filter(({ code }) => code !== antarctica)
  const inhabited: FeatureCollection = { type: 'FeatureCollection', features: lands.map(({ land }) => land) }
  const draw = geoPath(geoEqualEarth().fitSize([mapSize.width, mapSize.height], inhabited)).digits(1)
  return lands.map(({ land, code }) => ({ code, path: draw(land) ?? '' }))
}

const drawn = new Set(countryShapes.map((shape) => shape.code))

/** Whether a country can be seen on the map. */
export const isDrawn = (code: string) => drawn.has(code)
