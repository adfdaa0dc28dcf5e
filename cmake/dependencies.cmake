# Every library the project links, in one place. The Debian packages are listed in packaging/debian-packages.txt.
find_package(Eigen3 3.4 REQUIRED NO_MODULE)
find_package(fmt REQUIRED)
find_package(nlohmann_json REQUIRED)
find_package(ZLIB REQUIRED)
find_package(OpenCASCADE REQUIRED)
find_package(PkgConfig REQUIRED)
pkg_check_modules(LIBZIP REQUIRED IMPORTED_TARGET libzip)
pkg_check_modules(PUGIXML REQUIRED IMPORTED_TARGET pugixml)
pkg_check_modules(POPPLER REQUIRED IMPORTED_TARGET poppler-glib cairo-svg)
pkg_check_modules(CAIRO REQUIRED IMPORTED_TARGET cairo-pdf)
pkg_check_modules(GDKPIXBUF REQUIRED IMPORTED_TARGET gdk-pixbuf-2.0)
pkg_check_modules(MUPARSER REQUIRED IMPORTED_TARGET muparser)

# OpenCASCADE's own package file puts its include directory only into a variable.
add_library(prism_occt INTERFACE)
target_include_directories(prism_occt SYSTEM INTERFACE ${OpenCASCADE_INCLUDE_DIR})
target_link_libraries(prism_occt INTERFACE TKernel TKMath TKG2d TKG3d TKGeomBase TKBRep TKGeomAlgo TKTopAlgo TKPrim
    TKBO TKBool TKFillet TKOffset TKShHealing TKHLR TKMesh TKXSBase TKSTEPBase TKSTEPAttr TKSTEP209 TKSTEP)

# The two modules of OpenCV that are used come without a package file of their own.
add_library(prism_opencv INTERFACE)
find_path(OPENCV_INCLUDE opencv2/core.hpp PATH_SUFFIXES opencv4 REQUIRED)
find_library(OPENCV_CORE opencv_core REQUIRED)
find_library(OPENCV_IMGPROC opencv_imgproc REQUIRED)
target_include_directories(prism_opencv SYSTEM INTERFACE ${OPENCV_INCLUDE})
target_link_libraries(prism_opencv INTERFACE ${OPENCV_IMGPROC} ${OPENCV_CORE})

if(PRISM_APP)
    find_package(Qt6 REQUIRED COMPONENTS Widgets OpenGL)
endif()
