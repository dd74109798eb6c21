# One floor of the house: one folder, one static library, one include root.
#
#   cinnabar_floor(photometry FLOORS base color optics LIBS fmt::fmt)
#
# The headers of a floor are seen as "cinnabar/<floor>/<file>.h" through a link in the build tree that
# only the floor's own target carries, so a floor can include just the floors it names here, and those
# must stand above it in the list of docs/architecture.md.

add_library(cinnabar_settings INTERFACE)
target_compile_features(cinnabar_settings INTERFACE cxx_std_20)
target_compile_options(cinnabar_settings INTERFACE -Wall -Wextra -Wpedantic -Wshadow -Wnon-virtual-dtor
                       -Woverloaded-virtual -Wno-missing-field-initializers -Werror
                       -Wno-restrict)  # g++ 12 sees overlaps in std::string + that are not there (PR 105329)
if(CINNABAR_SANITIZE)
  # Instrumented code makes g++ see uninitialised values that are not there: warnings stay errors in plain builds.
  target_compile_options(cinnabar_settings INTERFACE -fsanitize=${CINNABAR_SANITIZE} -fno-omit-frame-pointer -Wno-error)
  target_link_options(cinnabar_settings INTERFACE -fsanitize=${CINNABAR_SANITIZE})
endif()

set(CINNABAR_FLOOR_ORDER base color optics photometry motion effects project scene render planning takes
    forecast formats devices desktop cli)

function(cinnabar_floor name)
  cmake_parse_arguments(FLOOR "RECURSE" "" "FLOORS;LIBS;PRIVATE_LIBS" ${ARGN})
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
endfunction()
