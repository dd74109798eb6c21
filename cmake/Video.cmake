# The libraries of libav, which Debian has without files for CMake.
add_library(cinnabar_video INTERFACE)
foreach(part avformat avcodec swscale avutil)
  find_path(CINNABAR_${part}_HEADERS lib${part}/${part}.h REQUIRED)
  target_include_directories(cinnabar_video SYSTEM INTERFACE ${CINNABAR_${part}_HEADERS})
  find_library(CINNABAR_${part} ${part} REQUIRED)
  target_link_libraries(cinnabar_video INTERFACE ${CINNABAR_${part}})
endforeach()
