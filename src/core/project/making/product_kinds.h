// Products and props built to scale from a few measures, as read off a drawing or a rule: bottle, jar, can, tin,
// cup, pump, tube, ring; carton, flask, device, pouch, shoe; bowl, glass, fruit. Metres.
#pragma once
#include <map>
#include <string>
#include <vector>

#include "cinnabar/project/document/document.h"

namespace cinnabar {

struct Dimension {
  std::string key, name;  ///< "neck_diameter", "Neck"
  double usual, low, high;
  bool is_length = true;  ///< else a share from 0 to 1
};
struct ProductKind {
  std::string id, name;
  std::vector<Dimension> dimensions;
};
[[nodiscard]] const std::vector<ProductKind>& product_kinds();
[[nodiscard]] const ProductKind* product_kind(const std::string& id);

/// The product with its parts as that kind of those measures; measures left out are as they were, or usual. What
/// it was built from is kept in "built". Materials stay with the parts that go by the same id; a label stays
/// within the height of its part. Fails, naming the measure, where they do not fit together.
[[nodiscard]] Expected<Json> built_product(const Json& product, const std::string& kind,
                                           const std::map<std::string, double>& measures);
/// A measure of a built product: its own, or the usual one.
[[nodiscard]] double measure_of(const Json& product, const Dimension& dimension);

/// A new product of a kind with usual measures and a fresh id.
[[nodiscard]] Json new_product(const Document& document, const std::string& kind);

}  // namespace cinnabar
