# libsndfile, which Debian has without a file for CMake.
add_library(cinnabar_sound INTERFACE)
find_path(CINNABAR_SOUND_HEADERS sndfile.h REQUIRED)
target_include_directories(cinnabar_sound SYSTEM INTERFACE ${CINNABAR_SOUND_HEADERS})
find_library(CINNABAR_SOUND sndfile REQUIRED)
target_link_libraries(cinnabar_sound INTERFACE ${CINNABAR_SOUND})
