# Bullet as Debian has it in double precision, beside the usual one: its headers mean either by a definition.
add_library(cinnabar_rigid INTERFACE)
find_path(CINNABAR_BULLET_HEADERS btBulletDynamicsCommon.h PATH_SUFFIXES bullet REQUIRED)
target_include_directories(cinnabar_rigid SYSTEM INTERFACE ${CINNABAR_BULLET_HEADERS})
target_compile_definitions(cinnabar_rigid INTERFACE BT_USE_DOUBLE_PRECISION)
foreach(part BulletDynamics BulletCollision LinearMath)
  find_library(CINNABAR_${part} ${part}-float64 REQUIRED)
  target_link_libraries(cinnabar_rigid INTERFACE ${CINNABAR_${part}})
endforeach()
