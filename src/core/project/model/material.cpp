#include "cinnabar/project/model/material.h"

#include "cinnabar/color/texture.h"
#include "cinnabar/project/model/names.h"

namespace cinnabar {
namespace {

Json three(const Vec3& v) { return {v.x, v.y, v.z}; }
template <class E>
const std::string& named(const Names& names, E value) {
  return names[static_cast<std::size_t>(value)];
}

}  // namespace

std::shared_ptr<const Picture> Texture::tile() const {
  if (kind != TextureKind::picture) return tile_of(static_cast<Pattern>(kind), ground, colour).against_mean;
  return image ? tile_of(image, ground).against_mean : nullptr;
}

Json material_json(const Material& m) {
  const bool patterned = m.texture.has_value();
  Json out{{"kind", named(material_names(), m.kind)}, {"colour", three(patterned ? m.texture->ground : m.colour)}};
  const bool facets =
      m.kind == MaterialKind::satin || m.kind == MaterialKind::metal || m.kind == MaterialKind::frosted;
  if (m.roughness > 0.0 || facets) out["roughness"] = m.roughness;
  if (!m.is_matte() && m.kind != MaterialKind::metal && m.kind != MaterialKind::mirror) out["ior"] = m.ior;
  if (largest(m.absorption) > 0.0) out["absorption"] = three(m.absorption);
  if (m.kind == MaterialKind::translucent) {
    out["transmittance"] = m.transmittance;
    if (m.forward > 0.0) out["forward"] = m.forward, out["lobe_deg"] = m.lobe_deg;
  }
  if (largest(m.scattering) > 0.0) out["scattering"] = three(m.scattering);
  if (m.brushing != 0.0) out["brushing"] = m.brushing;
  if (m.sheen > 0.0) out["sheen"] = m.sheen;
  if (m.screen > 0.0) out["screen"] = m.screen;
  if (m.relief) out["relief"] = {{"size", m.relief->size}, {"depth", m.relief->depth}};
  if (m.cover)
    out["cover"] = {
        {"kind", named(cover_names(), m.cover->kind)}, {"share", m.cover->share}, {"size", m.cover->size}};
  if (patterned) {
    const Texture& t = *m.texture;
    out["texture"] = {{"kind", named(texture_names(), t.kind)}, {"size", t.size}, {"turn_deg", t.turn_deg}};
    if (t.kind == TextureKind::picture)
      out["texture"]["picture"] = t.picture;
    else
      out["texture"]["colour"] = three(t.colour);
  }
  if (m.textured != patterned) out["textured"] = m.textured;
  return out;
}

}  // namespace cinnabar
