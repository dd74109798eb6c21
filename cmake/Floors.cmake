# One floor of the house: one folder, one static library, one include root.
#
#   cinnabar_floor(photometry FLOORS base color optics LIBS fmt::fmt)
#
# OWN_FLAGS: compiled with flags of its own (others inline only what is small); HEADERS: outside headers that it reads
# once beside the usual ones.
# The headers of a floor are seen as "cinnabar/<floor>/<file>.h" through a link in the build tree that
# only the floor's own target carries, so a floor can include just the floors it names here, and those
# must stand above it in the list of docs/architecture.md.

add_library(cinnabar_settings INTERFACE)
target_compile_features(cinnabar_settings INTERFACE cxx_std_20)
target_compile_options(cinnabar_settings INTERFACE -Wall -Wextra -Wpedantic -Wnon-virtual-dtor
                       -Woverloaded-virtual -Wno-missing-field-initializers -Werror)
if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU")  # g++ 12 sees these in std::string + where they are not (PR 105329)
  target_compile_options(cinnabar_settings INTERFACE -Wshadow -Wno-restrict -Wno-stringop-overflow -Wno-array-bounds)
else()  # headers that were read once are the same whenever they are read
  target_compile_options(cinnabar_settings INTERFACE "SHELL:-Xclang -fno-pch-timestamp")
endif()
if(CINNABAR_SANITIZE)
  # Instrumented code makes g++ see uninitialised values that are not there: warnings stay errors in plain builds.
  target_compile_options(cinnabar_settings INTERFACE -fsanitize=${CINNABAR_SANITIZE} -fno-sanitize-recover=all
                         -fno-omit-frame-pointer -Wno-error)
  target_link_options(cinnabar_settings INTERFACE -fsanitize=${CINNABAR_SANITIZE})
endif()

set(CINNABAR_FLOOR_ORDER base color optics photometry motion effects project scene render planning takes
    forecast formats devices desktop cli)

# Headers from outside the house that most sources read, read once. Nothing of ours is among them, so what a floor may
# include stays as it is. Sources still include what they use.
set(CINNABAR_OUTSIDE <algorithm> <any> <array> <atomic> <cmath> <functional> <map> <memory> <numeric> <optional> <set>
    <string> <string_view> <unordered_map> <utility> <vector> <fmt/format.h> <nlohmann/json.hpp> <tl/expected.hpp>)
# Settings of a target that reads headers once for targets compiled alike.
function(cinnabar_read_once name)
  cmake_parse_arguments(ONCE "" "" "HEADERS;LIBS" ${ARGN})
  file(CONFIGURE OUTPUT ${CMAKE_BINARY_DIR}/${name}.cpp CONTENT "// Reads what others reuse.\n")
  add_library(${name} OBJECT ${CMAKE_BINARY_DIR}/${name}.cpp)
  target_link_libraries(${name} PRIVATE cinnabar_settings fmt::fmt tl::expected nlohmann_json::nlohmann_json ${ONCE_LIBS})
  set_target_properties(${name} PROPERTIES CXX_EXTENSIONS OFF)
  target_precompile_headers(${name} PRIVATE ${CINNABAR_OUTSIDE} ${ONCE_HEADERS})
endfunction()

function(cinnabar_floor name)
  cmake_parse_arguments(FLOOR "RECURSE;OWN_FLAGS" "" "FLOORS;LIBS;PRIVATE_LIBS;HEADERS" ${ARGN})
  list(FIND CINNABAR_FLOOR_ORDER ${name} own_place)
  if(own_place EQUAL -1)
    message(FATAL_ERROR "${name} is no floor of the house")
  endif()
  foreach(used ${FLOOR_FLOORS})
    list(FIND CINNABAR_FLOOR_ORDER ${used} used_place)
    if(used_place EQUAL -1 OR NOT used_place LESS own_place)
      message(FATAL_ERROR "Floor ${name} may not use ${used}, which does not stand above it")
    endif()
  endforeach()
  if(FLOOR_RECURSE)  # a floor with rooms; the room main/ is its program, not the library
    file(GLOB_RECURSE sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/*.cpp ${CMAKE_CURRENT_SOURCE_DIR}/*.h)
    list(FILTER sources EXCLUDE REGEX "^${CMAKE_CURRENT_SOURCE_DIR}/main/")
  else()
    file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/*.cpp)
  endif()
  add_library(cinnabar_${name} STATIC ${sources})
  add_library(cinnabar::${name} ALIAS cinnabar_${name})
  set(root ${CMAKE_BINARY_DIR}/floors/${name})
  file(MAKE_DIRECTORY ${root}/cinnabar)
  file(CREATE_LINK ${CMAKE_CURRENT_SOURCE_DIR} ${root}/cinnabar/${name} SYMBOLIC)
  target_include_directories(cinnabar_${name} PUBLIC ${root})
  set_target_properties(cinnabar_${name} PROPERTIES CXX_EXTENSIONS OFF POSITION_INDEPENDENT_CODE ON)
  list(TRANSFORM FLOOR_FLOORS PREPEND cinnabar::)
  target_link_libraries(cinnabar_${name} PUBLIC ${FLOOR_FLOORS} ${FLOOR_LIBS}
                        PRIVATE cinnabar_settings ${FLOOR_PRIVATE_LIBS})
  target_compile_features(cinnabar_${name} PUBLIC cxx_std_20)
  if(NOT FLOOR_OWN_FLAGS)
    target_compile_options(cinnabar_${name} PRIVATE
                           "$<$<AND:$<CONFIG:Release>,$<CXX_COMPILER_ID:Clang>>:SHELL:-mllvm -inline-threshold=25>")
  endif()
  if(FLOOR_HEADERS)
    target_precompile_headers(cinnabar_${name} PRIVATE ${CINNABAR_OUTSIDE} ${FLOOR_HEADERS})
  elseif(NOT FLOOR_OWN_FLAGS)
    target_precompile_headers(cinnabar_${name} REUSE_FROM cinnabar_floors_once)
  endif()
endfunction()
