// A product mesh taken into a project.
#include "cinnabar/base/text.h"
#include "cinnabar/cli/commands.h"
#include "cinnabar/scene/mesh_file.h"

namespace cinnabar {

using Out = nlohmann::ordered_json;

int mesh_command(const Answer& answer, const MeshArguments& in) {
  MeshChoice choice;
  const auto& units = mesh_units();
  const auto unit = std::find_if(units.begin(), units.end(), [&](const LengthUnit& u) { return u.id == in.unit; });
  if (unit == units.end()) return answer.refuse({"--unit " + in.unit, "is no unit", "give mm, cm, m, in or ft"});
  choice.metres_per_unit = unit->metres;
  if (!in.up.empty() && in.up != "y" && in.up != "z")
    return answer.refuse({"--up " + in.up, "is neither y nor z", "give one of them"});
  if (!in.height.empty()) {
    choice.height = parse_length(in.height);
    if (!choice.height || !(*choice.height > 0) || *choice.height > 100)
      return answer.refuse({"--height " + in.height, "is no height", "give it as 24cm or 9.5in"});
  }
  choice.scaled_to_height = in.scaled;
  if (in.scaled && !choice.height)
    return answer.refuse({"--scaled", "needs a height", "give --height as 24cm or 9.5in"});
  const auto mesh = read_mesh_file(in.mesh);
  if (!mesh) return answer.refuse(mesh.error());
  choice.z_up = in.up.empty() ? mesh->z_up : in.up == "z";
  auto store = Store::open(in.file, Access::write);
  if (!store) return answer.refuse(store.error());
  const MeshReport report = inspected(*mesh, choice);
  const auto next = with_mesh_product((*store)->document(), *mesh, choice, in.name);
  if (!next) return answer.refuse(next.error());
  const Json& product = *next->lists.at("products").back();
  const Edit edit = edit_between((*store)->document(), *next, product.value("name", "") + " added");
  if (const auto kept = (*store)->apply(edit); !kept) return answer.refuse(kept.error());
  answer.say(edit.title + ": " + length_text(report.width) + " wide, " + length_text(report.height) + " high, " +
             length_text(report.depth) + " deep");
  for (const std::string& remark : report.remarks) answer.say("  " + remark);
  Out parts = Out::array();
  for (const Json& part : product["parts"]) parts.push_back(part["id"].get<std::string>());
  answer.give({{"product", product["id"]},
               {"parts", parts},
               {"triangles", mesh->triangles},
               {"width", report.width},
               {"height", report.height},
               {"depth", report.depth},
               {"remarks", report.remarks}});
  return 0;
}

}  // namespace cinnabar
