// The JSON Schema of the project document, made from the rows of its fields.
#pragma once
#include "cinnabar/project/document/document.h"

namespace cinnabar {

/// Draft 7, as `cinnabar-cli schema` prints it and docs/project.schema.json holds it. It refuses what a schema can
/// say; `validate` also knows references, order, and what blobs hold.
[[nodiscard]] nlohmann::ordered_json project_schema();

}  // namespace cinnabar
