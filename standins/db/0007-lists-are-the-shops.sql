-- lists to install are kept by the shop now, not by the catalogue
drop table install_list;
